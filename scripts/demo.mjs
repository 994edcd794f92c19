/** `npm run demo`: everything from a fresh checkout to a running program on its own demo data. */
import { existsSync } from "node:fs";
import { join } from "node:path";
import { bin, build, install, root, run, serve } from "./prepare.mjs";

const data = process.env.CUCHARA_DEMO_DATA || join(root, ".demo-data");
await install();
await build();
if (!existsSync(join(data, "cuchara.db"))) {
  console.log("Making the demo data …");
  run(bin("tsx"), ["scripts/make-demo.ts"], { CUCHARA_DATA: data });
}
await serve(data);
