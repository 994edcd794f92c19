/** `npm test`: all set-up, then everything CI runs. Closes with `N passed, N failed` alone on the last line. */
import { spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import own from "./own-program.cjs";
import { bin, browserPath, build, installInParts, overhear, root, runBeside } from "./prepare.mjs";
import { tallyScreens, tallyUnit } from "./tally.cjs";

let passed = 0;
let failed = 0;
let isTold = false;
// What could not be installed or built ends this process early: that is a failure, too.
process.on("exit", () => {
  if (!isTold) console.log(`\n${passed} passed, ${failed + 1} failed`);
});

/** Runs a command; its exit status, or -1 if it could not be started. */
function attempt(name, command, args, env = {}) {
  const started = Date.now();
  console.log(`\n── ${name}`);
  const { status } = spawnSync(command, args, { cwd: root, stdio: "inherit", env: { ...process.env, ...env } });
  console.log(`── ${name}: ${Math.round((Date.now() - started) / 1000)} s`);
  return status ?? -1;
}

/** Runs a command beside others; what it says is shown when it has ended. Its exit status, or -1 if it could not be started. */
async function beside(name, command, args, env = {}) {
  const started = Date.now();
  const { status, said } = await overhear(command, args, env);
  console.log(`\n── ${name}\n${said}── ${name}: ${Math.round((Date.now() - started) / 1000)} s`);
  return status;
}

/** Native code is compiled on one core and takes longest: all else that runs meanwhile stands back. */
const aside = (command, args) => ["nice", ["-n", "10", command, ...args]];

/** A check that either holds or does not. */
async function check(name, command, args) {
  if ((await beside(name, ...aside(command, args))) === 0) passed++;
  else failed++;
}

/** Adds what a runner says of itself. */
function add({ passed: more, failed: bad, said }) {
  passed += more;
  failed += bad;
  for (const line of said) console.log(`\n${line}`);
}

/** What the tests need of Debian, installed if it is missing and this user may. Says what is missing in the end. */
async function debianPackages() {
  const needed = [
    { name: "chromium", there: () => browserPath() !== undefined },
    { name: "socat", there: () => spawnSync("socat", ["-V"]).status === 0 },
    { name: "python3-serial", there: () => spawnSync("/usr/bin/python3", ["-c", "import serial"]).status === 0 },
  ];
  const missing = needed.filter(({ there }) => !there()).map(({ name }) => name);
  if (missing.length > 0 && process.getuid?.() === 0 && existsSync("/usr/bin/apt-get")) {
    const quiet = { DEBIAN_FRONTEND: "noninteractive" };
    await beside("Debian's packages: list", "apt-get", ["update"], quiet);
    await beside("Debian's packages", "apt-get", ["install", "-y", "--no-install-recommends", ...missing], quiet);
  }
  return needed.filter(({ there }) => !there()).map(({ name }) => name);
}

function readJson(path) {
  return existsSync(path) ? JSON.parse(readFileSync(path, "utf8")) : null;
}

const started = Date.now();
const { packages, everything } = installInParts();
const debian = debianPackages();
await packages;
console.log(`── Packages: ${Math.round((Date.now() - started) / 1000)} s`);
mkdirSync(join(root, ".build"), { recursive: true });
for (const name of ["unit.json", "screens.json"]) rmSync(join(root, ".build", name), { force: true });

// Native code is compiled meanwhile; neither the checks nor the build need it.
await Promise.all([
  check("Format", bin("prettier"), ["--check", "."]),
  check("Lint", bin("eslint"), ["."]),
  check("Floor plan", bin("depcruise"), ["src", "--config", ".dependency-cruiser.cjs"]),
  check("Types", bin("tsc"), ["--noEmit"]),
]);
await build((command, args, env) => runBeside(...aside(command, args), env), everything);
await everything;
console.log(`── Everything is built and checked after ${Math.round((Date.now() - started) / 1000)} s`);
const missing = await debian;
if (missing.length > 0) {
  console.log(
    `\nThe tests need Debian's packages ${missing.join(", ")}. Install them first (CHROMIUM may name another browser).`,
  );
  failed++;
}
// Nothing else runs meanwhile: every core takes part.
const unitStatus = attempt("Unit tests", bin("jest"), ["--maxWorkers=100%", "--json", "--outputFile=.build/unit.json"]);
add(tallyUnit(readJson(join(root, ".build", "unit.json")), unitStatus));

const browser = browserPath();
if (browser) {
  const env = { CHROMIUM: browser, CI: "1", CUCHARA_TEST_PORTS: `${await own.freePort()},${await own.freePort()}` };
  const status = attempt("Browser tests", bin("playwright"), ["test"], env);
  add(tallyScreens(readJson(join(root, ".build", "screens.json")), status));
}

isTold = true;
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
