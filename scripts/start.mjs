/** `npm start`: the program on the user's own data (`CUCHARA_DATA`, or a folder in the home directory). */
import { homedir } from "node:os";
import { join } from "node:path";
import { build, install, serve } from "./prepare.mjs";

await install();
await build();
await serve(process.env.CUCHARA_DATA || join(homedir(), ".cuchara"));
