/** `npm run bench`: installs what is missing, bundles the measurements as the program itself is bundled, and runs them. */
import { bin, install, root, run } from "./prepare.mjs";

await install();
/** Bundles measurements as the program itself is bundled. */
function bundle(name) {
  const externals = ["better-sqlite3", "serialport"].map((one) => `--external:${one}`);
  run(bin("esbuild"), [
    `scripts/${name}.ts`,
    "--bundle",
    "--platform=node",
    "--target=node20",
    ...externals,
    "--log-level=error",
    `--outfile=.build/${name}.cjs`,
  ]);
  return `${root}/.build/${name}.cjs`;
}

run(process.execPath, ["--expose-gc", bundle("bench")]);
run(process.execPath, [bundle("bench-workshop")]);
run(process.execPath, [bundle("bench-sheets")]);
run(process.execPath, [bundle("bench-reading")]);
run(process.execPath, [bundle("bench-link")]);
run(process.execPath, [`${root}/scripts/bench-page.mjs`]);
run(process.execPath, [`${root}/scripts/bench-routes.mjs`]);
