import { handle, json } from "@/server/http/respond";
import packageJson from "../../../../package.json";

export const GET = handle(() => json({ status: "ok", version: packageJson.version }));
