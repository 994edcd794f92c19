/**
 * `npm run soak`: jobs at 200 times the clock over a line with faults, two pages open and the heat looked at, for as long as is asked.
 * Memory, the delay of everything else, and the database must stay bounded.
 *
 *   --minutes 60    how long
 *   --delay-ms 50   how long anything else may wait (99 of 100)
 */
import { readFileSync, mkdtempSync, rmSync, statSync } from "node:fs";
import { connect, createServer } from "node:net";
import { spawn } from "node:child_process";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { parseArgs } from "node:util";
import { freePort, good, plainPrinter, plainSpool, startProgram } from "./own-program.cjs";
import { bin, build, install, root } from "./prepare.mjs";

const RATE = 200;
/** What the program may hold at the end over what it held after the first jobs, and the database a job. */
const MOST_GROWTH_MB = 150;
const MOST_DATABASE_MB = 120;

const { values } = parseArgs({
  options: { minutes: { type: "string", default: "60" }, "delay-ms": { type: "string", default: "50" } },
});
await install();
await build();
const data = mkdtempSync(join(tmpdir(), "cuchara-soak-"));
const simulatorPort = await freePort();
const simulator = spawn(bin("tsx"), ["scripts/simulator.ts", "--tcp", String(simulatorPort), "--rate", String(RATE)], {
  cwd: root,
  stdio: ["ignore", "pipe", "inherit"],
  detached: true,
});
process.once("exit", () => {
  // The whole group: it was started through a launcher.
  if (simulator.exitCode === null && simulator.signalCode === null) process.kill(-simulator.pid, "SIGKILL");
});
await new Promise((resolve) => simulator.stdout.on("data", (text) => String(text).includes("is at") && resolve()));

/** A line with faults: one line in so many is garbled on its way out, one `ok` in so many is lost, temperatures come unasked. */
const proxyPort = await freePort();
let outLines = 0;
let inLines = 0;
let faults = 0;
const proxy = createServer((from) => {
  const to = connect(simulatorPort, "127.0.0.1");
  const spoil = (stream, target, each) => {
    let rest = "";
    stream.on("data", (chunk) => {
      const lines = (rest + chunk.toString("latin1")).split("\n");
      rest = lines.pop();
      target.write(Buffer.from(lines.map(each).join(""), "latin1"));
    });
    stream.on("error", () => undefined);
    stream.on("close", () => target.destroy());
  };
  spoil(from, to, (line) => {
    if (++outLines % 997 !== 0 || !/^N\d+ G1/.test(line)) return `${line}\n`;
    faults++;
    return `${line.replace("X", "Y")}\n`;
  });
  spoil(to, from, (line) => {
    if (++inLines % 4999 !== 0 || line !== "ok") return `${line}\n`;
    faults++;
    return "";
  });
  const chatter = setInterval(() => from.write("T:210.1 /210.0 B:60.0 /60.0\n"), 500);
  from.on("close", () => clearInterval(chatter));
});
await new Promise((resolve) => proxy.listen(proxyPort, "127.0.0.1", resolve));

const program = await startProgram(data);
const { ask } = program;
const printerId = good(await ask("POST", "/api/printers", plainPrinter)).id;
const spoolId = good(await ask("POST", "/api/spools", plainSpool)).id;
const trial = good(await ask("POST", "/api/trials", { kind: "temperature", printerId, spoolId }));
const transport = { kind: "tcp", host: "127.0.0.1", port: proxyPort };
good(await ask("POST", "/api/link/connect", { printerId, transport, confirmed: true }));

/** A page that listens. */
let heard = 0;
const pages = [1, 2].map((number) => {
  const abort = new AbortController();
  const query = `printerId=${printerId}&heat=1${number === 1 ? "&all=1" : ""}`;
  void fetch(`${program.address}/api/link/events?${query}`, { signal: abort.signal })
    .then(async ({ body }) => {
      for await (const chunk of body) heard += chunk.length;
    })
    .catch(() => undefined);
  return abort;
});

const residentMb = () => {
  const status = readFileSync(`/proc/${program.pid}/status`, "utf8");
  return Number(/VmRSS:\s+(\d+)/.exec(status)[1]) / 1024;
};
const databaseMb = () =>
  ["", "-wal"].reduce((sum, end) => {
    try {
      return sum + statSync(join(data, `cuchara.db${end}`)).size / 1e6;
    } catch {
      return sum;
    }
  }, 0);

await ask("GET", "/api/program");
const delays = [];
let jobs = 0;
let broken = 0;
let firstMb = null;
const untilMs = Date.now() + Number(values.minutes) * 60_000;
while (Date.now() < untilMs) {
  good(await ask("POST", "/api/link/job", { printerId, trialId: trial.id }));
  for (;;) {
    await new Promise((resolve) => setTimeout(resolve, 1000));
    const { job } = (await ask("GET", "/api/link")).body[0];
    const d=(await ask("GET", "/api/program")).body.delay; delays.push(d); {const s=readFileSync("/proc/stat","utf8").split("\n")[0].split(/ +/); console.log(new Date().toISOString(), JSON.stringify(d), "steal",s[8],"iow",s[5]);}
    if (job.state === "broken") broken++;
    if (!["running", "paused"].includes(job.state)) break;
    if (Date.now() > untilMs + 5000) {
      await ask("POST", "/api/link/job/act", { printerId, act: "cancel" });
      break;
    }
  }
  jobs++;
  if (jobs === 2) firstMb = residentMb();
}
const endMb = residentMb();
firstMb ??= endMb;
const p99 = delays.map((delay) => delay.p99).sort((a, b) => a - b);
const worst = p99[Math.floor(p99.length * 0.99)] ?? 0;
const figures = {
  minutes: Number(values.minutes),
  jobs,
  broken,
  faults,
  "lines out": outLines,
  "heard, MB": Math.round(heard / 1e6),
  "memory after two jobs, MB": Math.round(firstMb),
  "memory at the end, MB": Math.round(endMb),
  "database, MB": Math.round(databaseMb() * 10) / 10,
  "delay p99, ms": worst,
};
for (const [name, figure] of Object.entries(figures)) console.log(`${name.padEnd(28)} ${figure}`);
for (const page of pages) page.abort();
await program.end();
proxy.close();
rmSync(data, { recursive: true, force: true });
const problems = [
  worst > Number(values["delay-ms"]) && `everything else waited ${worst} ms`,
  endMb - firstMb > MOST_GROWTH_MB && `memory grew by ${Math.round(endMb - firstMb)} MB`,
  figures["database, MB"] > MOST_DATABASE_MB && `the database holds ${figures["database, MB"]} MB`,
  broken > 0 && `${broken} jobs broke off`,
  jobs === 0 && "no job ran",
].filter(Boolean);
console.log(problems.length === 0 ? "bounded" : problems.join("; "));
process.exit(problems.length === 0 ? 0 : 1);
