/** `npm run pictures`: the pictures in docs/screenshots, taken anew from the story of the demo, so that they never lag behind what they show. */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "@playwright/test";
import own from "./own-program.cjs";
import { bin, build, install, root, run } from "./prepare.mjs";

const WIDE = { width: 1280, height: 800 };
const PHONE = { width: 390, height: 844 };
const only = process.argv.slice(2);

await install();
await build();
const data = mkdtempSync(join(tmpdir(), "cuchara-pictures-"));
run(bin("tsx"), ["scripts/make-demo.ts"], { CUCHARA_DATA: data });
const program = await own.startProgram(data);
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
  args: ["--no-sandbox", "--disable-gpu"],
});

const get = async (path) => (await program.ask("GET", `/api${path}`)).body;
const post = async (path, body) => own.good(await program.ask("POST", `/api${path}`, body));
const trials = await get("/trials?brief=1");
const files = await get("/files");
const sheets = await get("/sheets");
/** The newest trial of a kind for a spool, in a state if one is named. */
const trialOf = (kind, spoolId, state) =>
  trials.find((one) => one.kind === kind && one.spoolId === spoolId && (!state || one.state === state)).id;
const [FINISHED, MIDDLE] = [1, 3];
const tower = `/trials/${trialOf("temperature", MIDDLE, "kept")}`;
const link = { printerId: 1, transport: { kind: "simulated", rate: 200 } };

/** Each picture: its name, where it is taken, and what is done there first. */
const pictures = [
  [
    "bench",
    "/bench",
    { ready: (page) => page.locator("#temperature svg path").first().waitFor({ state: "attached" }) },
  ],
  ["gallery", "/trials/new", { ready: (page) => page.locator("main svg path").first().waitFor({ state: "attached" }) }],
  ["bench-known", "/bench/known"],
  ["trial-plan", tower],
  ["trial-check", `${tower}?step=check`],
  ["trial-read", `${tower}?step=read`],
  ["trial-keep", `${tower}?step=keep`],
  ["trial-read-phone", `${tower}?step=read`, { size: PHONE }],
  ["read-matrix", `/trials/${trialOf("retraction-matrix", FINISHED)}?step=read`],
  ["workshop", "/workshop"],
  ["own-file", `/workshop/${files.find(({ name }) => /funnel/.test(name)).id}`],
  ["paths", `/paths/${sheets[0].id}`],
  ["shelf", "/shelf"],
  ["label", `/shelf/label?printerId=1&spoolId=${FINISHED}`],
  ["measure-tune", "/measure/extruder-steps"],
  ["workshop-program", "", { path: newProgram }],
  ["printer-console", "/printer/1?view=console", { before: talk }],
  ["printer-values", "/printer/1?view=values"],
  ["printer-job", "/printer/1?view=job", { before: job, wait: 9000 }],
];

/** A program from nothing, as somebody would have written it. */
async function newProgram() {
  const text =
    "G28\nM109 S205\nG90\nM83\nG1 X60 Y60 Z0.2 F3000\nG1 X160 Y60 E4.2 F1200\nG1 X160 Y160 E4.2\nG1 X60 Y160 E4.2\nG1 X60 Y60 E4.2\nM104 S0\nM84\n";
  const { id } = await post("/programs", { name: "A square to try.gcode", text });
  return `/workshop/program/${id}`;
}

async function talk() {
  await post("/link/connect", link);
  await post("/link/lines", { printerId: 1, lines: ["M115", "M105", "G28", "M503"], source: "console" });
  await post("/link/values/read", { printerId: 1 });
}

async function job() {
  await post("/link/job", { printerId: 1, trialId: trialOf("flow", MIDDLE) });
}

try {
  for (const [name, path, { size = WIDE, before, ready, wait = 1500, path: made } = {}] of pictures) {
    if (before) await before();
    if (only.length > 0 && !only.includes(name)) continue;
    const page = await browser.newPage({ viewport: size });
    await page.goto(`${program.address}${made ? await made() : path}`);
    await page.locator("html[data-ready]").waitFor({ state: "attached" });
    await ready?.(page);
    await page.waitForTimeout(wait);
    await page.screenshot({ path: join(root, "docs", "screenshots", `${name}.png`) });
    await page.close();
    console.log(name);
  }
} finally {
  await browser.close();
  await program.kill();
  rmSync(data, { recursive: true, force: true });
}
process.exit(0);
