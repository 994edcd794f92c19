/** `npm test`: all set-up, then everything CI runs. Closes with `N passed, N failed` alone on the last line. */
import { spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { bin, browserPath, build, install, root } from "./prepare.mjs";

let passed = 0;
let failed = 0;

function attempt(name, command, args, env = {}) {
  console.log(`\n── ${name}`);
  const { status } = spawnSync(command, args, { cwd: root, stdio: "inherit", env: { ...process.env, ...env } });
  return status === 0;
}

/** One check that either holds or does not. */
function check(name, command, args) {
  if (attempt(name, command, args)) passed++;
  else failed++;
}

/** What the tests need of Debian, installed if it is missing and this user may. Says what is missing in the end. */
function debianPackages() {
  const needed = [
    { name: "chromium", there: () => browserPath() !== undefined },
    { name: "socat", there: () => spawnSync("socat", ["-V"]).status === 0 },
    { name: "python3-serial", there: () => spawnSync("/usr/bin/python3", ["-c", "import serial"]).status === 0 },
  ];
  const missing = needed.filter(({ there }) => !there()).map(({ name }) => name);
  if (missing.length > 0 && process.getuid?.() === 0 && existsSync("/usr/bin/apt-get")) {
    attempt("Debian's packages", "apt-get", ["update"]);
    attempt("Debian's packages", "apt-get", ["install", "-y", "--no-install-recommends", ...missing], {
      DEBIAN_FRONTEND: "noninteractive",
    });
  }
  return needed.filter(({ there }) => !there()).map(({ name }) => name);
}

function readJson(path) {
  return existsSync(path) ? JSON.parse(readFileSync(path, "utf8")) : null;
}

install();
const missing = debianPackages();
if (missing.length > 0) {
  console.log(
    `\nThe tests need Debian's packages ${missing.join(", ")}. Install them first (CHROMIUM may name another browser).`,
  );
  failed++;
}
mkdirSync(join(root, ".build"), { recursive: true });
for (const name of ["unit.json", "screens.json"]) rmSync(join(root, ".build", name), { force: true });

check("Format", bin("prettier"), ["--check", "."]);
check("Lint", bin("eslint"), ["."]);
check("Floor plan", bin("depcruise"), ["src", "--config", ".dependency-cruiser.cjs"]);
check("Types", bin("tsc"), ["--noEmit"]);

// Nothing else runs meanwhile: every core takes part.
attempt("Unit tests", bin("jest"), ["--maxWorkers=100%", "--json", "--outputFile=.build/unit.json"]);
const unit = readJson(join(root, ".build", "unit.json"));
passed += unit?.numPassedTests ?? 0;
failed += unit ? unit.numFailedTests + unit.numRuntimeErrorTestSuites : 1;

build();
const browser = browserPath();
if (browser) {
  attempt("Browser tests", bin("playwright"), ["test"], { CHROMIUM: browser });
  const screens = readJson(join(root, ".build", "screens.json"))?.stats;
  passed += screens ? screens.expected + screens.flaky : 0;
  failed += screens ? screens.unexpected : 1;
}

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
