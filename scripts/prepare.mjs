/** What every command needs first: packages and a build that is not older than the sources. Runs before anything is installed. */
import { spawn, spawnSync } from "node:child_process";
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from "node:fs";
import { createHash } from "node:crypto";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import own from "./own-program.cjs";

export const root = join(dirname(fileURLToPath(import.meta.url)), "..");
const stamps = join(root, ".build");

/** Runs a program in the project's folder; ends this process with its code if it fails. */
export function run(command, args, env = {}) {
  const result = spawnSync(command, args, { cwd: root, stdio: "inherit", env: { ...process.env, ...env } });
  if (result.status !== 0) process.exit(result.status ?? 1);
}

/** Path of a program that a package brings. */
export const bin = (name) => join(root, "node_modules", ".bin", name);

/** Runs a program beside others; its exit status (-1 if it could not be started) and what it said. */
export function overhear(command, args, env = {}) {
  return new Promise((resolve) => {
    let said = "";
    const child = spawn(command, args, {
      cwd: root,
      stdio: ["ignore", "pipe", "pipe"],
      env: { ...process.env, ...env },
    });
    for (const stream of [child.stdout, child.stderr]) stream.on("data", (chunk) => (said += chunk));
    child.on("error", (error) => (said += `${error.message}\n`));
    child.on("close", (status) => resolve({ status: status ?? -1, said }));
  });
}

/** Runs a program beside others; if it fails, what it said is shown and this process ends with its code. */
export async function runBeside(command, args, env = {}) {
  const { status, said } = await overhear(command, args, env);
  if (status === 0) return;
  console.error(said);
  process.exit(status);
}

/**
 * Installs the packages if the lock file changed since they were, in two parts: when the first has ended, everything that is no native
 * code is there; what is native is compiled meanwhile.
 * @returns two promises: packages there, everything there
 */
export function installInParts() {
  const lock = createHash("sha256")
    .update(readFileSync(join(root, "package-lock.json")))
    .digest("hex");
  const stamp = join(root, "node_modules", ".cuchara-lock");
  if (existsSync(stamp) && readFileSync(stamp, "utf8") === lock)
    return { packages: Promise.resolve(), everything: Promise.resolve() };
  console.log("Installing packages …");
  const packages = runBeside("npm", ["ci", "--ignore-scripts", "--no-audit", "--no-fund"]);
  const everything = packages
    .then(() => runBeside("npm", ["rebuild", "--no-audit", "--no-fund"]))
    .then(() => writeFileSync(stamp, lock));
  return { packages, everything };
}

/** Installs the packages if the lock file changed since they were. */
export const install = () => installInParts().everything;

/**
 * Builds the pages and the server's worker if a source is newer than the last build.
 * @param runs `runBeside` to go on with something else meanwhile
 * @param installed  ends when all packages are there, those that are native code, too
 */
export async function build(runs = run, installed = Promise.resolve()) {
  const stamp = join(stamps, "built");
  const sources = ["src", "package-lock.json", "next.config.mjs", "tsconfig.json"];
  const newest = Math.max(...sources.map((path) => newestChange(join(root, path))));
  if (existsSync(stamp) && existsSync(join(root, ".next", "BUILD_ID")) && statSync(stamp).mtimeMs > newest) return;
  console.log("Building …");
  await buildServer(runs);
  await runs(bin("next"), ["build"], { NEXT_TELEMETRY_DISABLED: "1" });
  await installed;
  await compileAhead(runs);
  writeFileSync(stamp, "");
}

/** Starts the program once, on data of its own, so that it keeps what its modules are compiled to (`src/server/compiled.ts`). */
async function compileAhead(runs) {
  const data = mkdtempSync(join(tmpdir(), "cuchara-build-"));
  await runs(process.execPath, [join(stamps, "server.cjs")], {
    NODE_ENV: "production",
    NEXT_TELEMETRY_DISABLED: "1",
    CUCHARA_DATA: data,
    CUCHARA_QUIET: "1",
    CUCHARA_KEEP_COMPILED: "1",
    HOST: "127.0.0.1",
    PORT: String(await own.freePort()),
  });
  rmSync(data, { recursive: true, force: true });
}

/** Bundles the program and its worker thread, which the page builder does not know of. */
export async function buildServer(runs = run) {
  mkdirSync(stamps, { recursive: true });
  for (const [entry, name] of [
    ["src/server/start.ts", "server"],
    ["src/server/main.ts", "server-main"],
    ["src/server/tasks/worker.ts", "server-worker"],
  ]) {
    await runs(bin("esbuild"), [
      entry,
      "--bundle",
      "--platform=node",
      "--target=node20",
      ...["next", "better-sqlite3", "pino", "serialport"].map((external) => `--external:${external}`),
      "--log-level=error",
      `--outfile=.build/${name}.cjs`,
    ]);
  }
}

function newestChange(path) {
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return Math.max(stat.mtimeMs, ...readdirSync(path).map((name) => newestChange(join(path, name))));
}

/** Runs the program on `HOST` and `PORT` with the data in `dataFolder`; gives the child process once it is ready. */
export async function serve(dataFolder, { quiet = false, dev = false } = {}) {
  const child = spawn(process.execPath, [join(stamps, "server.cjs")], {
    cwd: root,
    env: {
      ...process.env,
      NODE_ENV: dev ? "development" : "production",
      CUCHARA_DATA: dataFolder,
      CUCHARA_DEV: dev ? "1" : "",
      CUCHARA_QUIET: quiet ? "1" : "",
      NEXT_TELEMETRY_DISABLED: "1",
    },
    stdio: ["ignore", "inherit", "inherit", "ipc"],
  });
  for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => child.kill(signal));
  child.on("exit", (code) => process.exit(code ?? 0));
  const address = await new Promise((resolve) => child.once("message", ({ ready }) => resolve(ready)));
  return { child, address };
}

/** Path of an installed Chromium (`CHROMIUM` says which); undefined if there is none. */
export function browserPath() {
  const known = [process.env.CHROMIUM, "/usr/bin/chromium", "/usr/bin/chromium-browser", "/usr/bin/google-chrome"];
  return known.find((path) => path && existsSync(path));
}
