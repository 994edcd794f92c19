/**
 * `npm run soak`: jobs at 200 times the clock over a line with faults, two pages open and the heat looked at, for as long as is asked.
 * Memory, the delay of everything else, and the database must stay bounded.
 *
 *   --minutes 60    how long
 *   --delay-ms 50   how long anything else may wait (99 of 100)
 *
 * A virtual machine's host may take the processors away ("steal" in Linux's /proc/stat): a second in which it took much says nothing of this
 * program. Both figures are printed; the seconds that were ours are judged.
 */
import { readFileSync, mkdtempSync, rmSync, statSync } from "node:fs";
import { connect, createServer } from "node:net";
import { spawn } from "node:child_process";
import { performance } from "node:perf_hooks";
import { availableParallelism, tmpdir } from "node:os";
import { join } from "node:path";
import { parseArgs } from "node:util";
import { freePort, good, plainPrinter, plainSpool, startProgram } from "./own-program.cjs";
import { bin, build, install, root } from "./prepare.mjs";

const RATE = 200;
/** What the program may hold at the end over what it held after the first jobs, and the database a job. */
const MOST_GROWTH_MB = 150;
const MOST_DATABASE_MB = 120;
/** A second is ours when the host took no more of the processors than so large a share. */
const OURS_UP_TO = 0.1;
/** Fewer seconds of our own than this share of all say too little. */
const LEAST_OURS = 0.2;
/** Of a second of one processor, as /proc/stat counts (USER_HZ, proc(5)). */
const TICKS = 100;

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

/** Ticks that the host took from all processors since it started; 0 where the system does not tell. */
const stolenTicks = () => {
  try {
    return Number(readFileSync("/proc/stat", "utf8").split("\n")[0].split(/ +/)[8]) || 0;
  } catch {
    return 0;
  }
};

await ask("GET", "/api/program");
/** One a second: how long others waited (99 of 100), and the share of the processors that the host took. */
const seconds = [];
let before = { atMs: performance.now(), ticks: stolenTicks() };
const noteSecond = async () => {
  const { p99 } = (await ask("GET", "/api/program")).body.delay;
  const now = { atMs: performance.now(), ticks: stolenTicks() };
  const ticks = ((now.atMs - before.atMs) / 1000) * TICKS * availableParallelism();
  seconds.push({ p99, stolen: (now.ticks - before.ticks) / ticks });
  before = now;
};
let jobs = 0;
let broken = 0;
let firstMb = null;
const untilMs = Date.now() + Number(values.minutes) * 60_000;
while (Date.now() < untilMs) {
  good(await ask("POST", "/api/link/job", { printerId, trialId: trial.id }));
  for (;;) {
    await new Promise((resolve) => setTimeout(resolve, 1000));
    const { job } = (await ask("GET", "/api/link")).body[0];
    await noteSecond();
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
const ours = seconds.filter(({ stolen }) => stolen <= OURS_UP_TO);
const worstOf = (some) => some.map(({ p99 }) => p99).sort((a, b) => a - b)[Math.floor(some.length * 0.99)] ?? 0;
const worst = worstOf(ours);
const stolenMean = seconds.reduce((sum, { stolen }) => sum + stolen, 0) / Math.max(1, seconds.length);
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
  "taken by the host, %": Math.round(stolenMean * 1000) / 10,
  "seconds of our own, %": Math.round((ours.length / Math.max(1, seconds.length)) * 100),
  "delay p99, ms": worst,
  "delay p99 of all seconds, ms": worstOf(seconds),
};
for (const [name, figure] of Object.entries(figures)) console.log(`${name.padEnd(30)} ${figure}`);
for (const page of pages) page.abort();
await program.end();
proxy.close();
rmSync(data, { recursive: true, force: true });
const problems = [
  ours.length < seconds.length * LEAST_OURS && "the host took so much of the processors that the delay says nothing",
  worst > Number(values["delay-ms"]) && `everything else waited ${worst} ms`,
  endMb - firstMb > MOST_GROWTH_MB && `memory grew by ${Math.round(endMb - firstMb)} MB`,
  figures["database, MB"] > MOST_DATABASE_MB && `the database holds ${figures["database, MB"]} MB`,
  broken > 0 && `${broken} jobs broke off`,
  jobs === 0 && "no job ran",
].filter(Boolean);
console.log(problems.length === 0 ? "bounded" : problems.join("; "));
process.exit(problems.length === 0 ? 0 : 1);
