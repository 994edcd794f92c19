/**
 * How soon each page shows its heading and its data, opened cold, and how much script it takes: part of `npm run bench`, where a browser
 * is installed. Compressed sizes are what went over the wire.
 */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "@playwright/test";
import { good, startProgram } from "./own-program.cjs";
import { bin, browserPath, build, run } from "./prepare.mjs";

/** Each route with what shows that its data are there. */
const routes = [
  ["/bench", "main h1", "main li"],
  ["/trials", "main h1", "main li a"],
  ["/trials/1", "main h1", "main [role=tablist]"],
  ["/workshop", "main h1", "main li a"],
  ["/workshop/1", "main h1", "main [role=tablist]"],
  ["/printer/1", "main h1", "main [aria-label=Link]"],
  ["/measure", "main h1", "main a"],
  ["/measure/extruder-steps", "main h1", "main section"],
  ["/shelf", "main h1", "main li a"],
  ["/shelf/printers/1", "main h1", "main input"],
  ["/shelf/spools/1", "main h1", "main input"],
  ["/shelf/program", "main h1", "main section"],
];
const MOST_MS = 800;
const MOST_KB = 300;
const ROUNDS = 3;

const executablePath = browserPath();
if (!executablePath) {
  console.log("No browser is installed, so the pages are not measured.");
  process.exit(0);
}
await build();
const data = mkdtempSync(join(tmpdir(), "cuchara-bench-routes-"));
run(bin("tsx"), ["scripts/make-demo.ts"], { CUCHARA_DATA: data, CUCHARA_DEMO: "plain" });
const program = await startProgram(data);
const browser = await chromium.launch({ executablePath, args: ["--no-sandbox"] });
const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];
const row = (what, figure, aim) => console.log(`${what.padEnd(58)} ${figure.padStart(26)}   ${aim}`);

/** Opens a route in a browser that has seen nothing yet. */
async function open(path, heading, shown) {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  const session = await context.newCDPSession(page);
  await session.send("Network.enable");
  const scripts = new Map();
  session.on("Network.responseReceived", ({ requestId, type }) => type === "Script" && scripts.set(requestId, 0));
  session.on("Network.loadingFinished", ({ requestId, encodedDataLength }) => {
    if (scripts.has(requestId)) scripts.set(requestId, encodedDataLength);
  });
  // Looked at by the page itself, frame by frame: from the start of its loading to the frame that shows it.
  await page.addInitScript(
    ([first, second]) => {
      const { document, performance, requestAnimationFrame } = globalThis;
      globalThis.seen = {};
      const look = () => {
        const now = performance.now();
        if (document.querySelector(first)) globalThis.seen.heading ??= now;
        if (document.querySelector(second)) globalThis.seen.data ??= now;
        if (globalThis.seen.heading === undefined || globalThis.seen.data === undefined) requestAnimationFrame(look);
      };
      requestAnimationFrame(look);
    },
    [heading, shown],
  );
  await page.goto(program.address + path, { waitUntil: "load" });
  await page.locator(shown).first().waitFor();
  const { heading: headingMs, data: dataMs } = await page.evaluate(() => globalThis.seen);
  await page.waitForLoadState("networkidle").catch(() => undefined);
  await page.waitForTimeout(300);
  const kb = [...scripts.values()].reduce((sum, bytes) => sum + bytes, 0) / 1000;
  await context.close();
  return { headingMs, dataMs, kb };
}

try {
  for (const [path, heading, shown] of routes) {
    const seen = [];
    for (let i = 0; i < ROUNDS; i++) seen.push(await open(path, heading, shown));
    const ms = (key) => Math.round(median(seen.map((one) => one[key])));
    row(
      `cold ${path}: heading, data, script`,
      `${ms("headingMs")} ms, ${ms("dataMs")} ms, ${Math.round(median(seen.map(({ kb }) => kb)))} kB`,
      `aim ≤ ${MOST_MS} ms, ≤ ${MOST_KB} kB`,
    );
  }
  // A list of two thousand.
  const trial = good(await program.ask("GET", "/api/trials/1"));
  const { kind, printerId, spoolId, plan, fixed } = trial;
  for (let from = 0; from < 2000; from += 20) {
    await Promise.all(
      Array.from({ length: 20 }, (_, i) =>
        program.ask("POST", "/api/trials", { kind, name: `Trial ${from + i}`, printerId, spoolId, plan, fixed }),
      ),
    );
  }
  const { headingMs, dataMs } = await open("/trials", "main h1", "main li a");
  row("a list of 2000 trials: heading, data", `${headingMs} ms, ${dataMs} ms`, `aim ≤ ${MOST_MS} ms`);
  await measureReaders();
} finally {
  await browser.close();
  await program.kill();
  rmSync(data, { recursive: true, force: true });
}

/** Fifty pages listen while a printer is talked to: how late a line is, and how long everything else waits. */
async function measureReaders() {
  const { ask, address } = program;
  good(await ask("POST", "/api/link/connect", { printerId: 1, transport: { kind: "simulated", rate: 100 } }));
  const aborts = [];
  const late = [];
  for (let i = 0; i < 50; i++) {
    const abort = new globalThis.AbortController();
    aborts.push(abort);
    void fetch(`${address}/api/link/events?printerId=1`, { signal: abort.signal })
      .then(async ({ body }) => {
        const decoder = new globalThis.TextDecoder();
        for await (const chunk of body) {
          for (const [, sent] of decoder.decode(chunk).matchAll(/M117 at (\d{13})/g))
            late.push(Date.now() - Number(sent));
        }
      })
      .catch(() => undefined);
  }
  await new Promise((resolve) => setTimeout(resolve, 1500));
  await ask("GET", "/api/program");
  for (let i = 0; i < 40; i++) {
    await ask("POST", "/api/link/lines", { printerId: 1, lines: [`M117 at ${Date.now()}`] });
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  await new Promise((resolve) => setTimeout(resolve, 300));
  const { delay } = good(await ask("GET", "/api/program"));
  for (const abort of aborts) abort.abort();
  row(
    "event stream, 50 readers: a line is late, delay p99",
    `${median(late)} ms, ${Math.round(delay.p99)} ms`,
    "aim ≤ 100 ms, ≤ 50 ms",
  );
}
