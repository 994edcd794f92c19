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

/** Debian's Chromium, installed if it is missing and this user may. */
function chromium() {
  if (!browserPath() && process.getuid?.() === 0 && existsSync("/usr/bin/apt-get")) {
    attempt("Installing Chromium", "apt-get", ["update"]);
    attempt("Installing Chromium", "apt-get", ["install", "-y", "--no-install-recommends", "chromium"], {
      DEBIAN_FRONTEND: "noninteractive",
    });
  }
  return browserPath();
}

function readJson(path) {
  return existsSync(path) ? JSON.parse(readFileSync(path, "utf8")) : null;
}

install();
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
const browser = chromium();
if (!browser) {
  console.log(
    "\nThere is no Chromium for the browser tests. Install Debian's package “chromium”, or set CHROMIUM to its path.",
  );
  failed++;
} else {
  attempt("Browser tests", bin("playwright"), ["test"], { CHROMIUM: browser });
  const screens = readJson(join(root, ".build", "screens.json"))?.stats;
  passed += screens ? screens.expected + screens.flaky : 0;
  failed += screens ? screens.unexpected : 1;
}

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
