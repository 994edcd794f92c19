/** `npm run bench`: installs what is missing, bundles the measurements as the program itself is bundled, and runs them. */
import { bin, install, root, run } from "./prepare.mjs";

install();
run(bin("esbuild"), [
  "scripts/bench.ts",
  "--bundle",
  "--platform=node",
  "--target=node20",
  "--external:better-sqlite3",
  "--log-level=error",
  "--outfile=.build/bench.cjs",
]);
run(process.execPath, ["--expose-gc", `${root}/.build/bench.cjs`]);
run(process.execPath, [`${root}/scripts/bench-page.mjs`]);
