/** Where the program begins: `main.ts`, bundled beside this, as it was compiled at the build. */
import { createRequire } from "node:module";
import { useCompiled } from "./compiled";

useCompiled(process.env.CUCHARA_KEEP_COMPILED === "1");
createRequire(__filename)("./server-main.cjs");
