/** `npm run dev`: the pages with hot reload, on the demo data. */
import { join } from "node:path";
import { bin, buildWorker, install, root, run } from "./prepare.mjs";

install();
buildWorker();
run(bin("next"), ["dev", "-H", process.env.HOST || "127.0.0.1", "-p", process.env.PORT || "4747"], {
  CUCHARA_DATA: process.env.CUCHARA_DATA || join(root, ".demo-data"),
  NEXT_TELEMETRY_DISABLED: "1",
});
