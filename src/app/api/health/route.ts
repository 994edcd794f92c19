import { databaseTrouble } from "@/server/db/connection";
import { handle, json } from "@/server/http/respond";
import packageJson from "../../../../package.json";

/** Whether all is well; `503` with a sentence if the database cannot be used. */
export const GET = handle(
  () => {
    const { version } = packageJson;
    const trouble = databaseTrouble();
    if (trouble) return json({ status: "trouble", version, error: { kind: "storage", message: trouble } }, 503);
    return json({ status: "ok", version });
  },
  { who: "reader" },
);
