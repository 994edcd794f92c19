/** `npm run dev`: the pages with hot reload, on the demo data. */
import { join } from "node:path";
import { buildServer, install, root, serve } from "./prepare.mjs";

await install();
await buildServer();
await serve(process.env.CUCHARA_DATA || join(root, ".demo-data"), { dev: true });
