/**
 * How soon the page answers a hand on the height log, and how soon it shows what a printer says: part of `npm run bench`, where
 * a browser is installed.
 */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "@playwright/test";
import sharp from "sharp";
import { bin, browserPath, build, run, serve } from "./prepare.mjs";

const executablePath = browserPath();
if (!executablePath) {
  console.log("No browser is installed, so the page is not measured.");
  process.exit(0);
}
await build();
const data = mkdtempSync(join(tmpdir(), "cuchara-bench-page-"));
run(bin("tsx"), ["scripts/make-demo.ts"], { CUCHARA_DATA: data, CUCHARA_DEMO: "plain" });
process.env.PORT = "4795";
const { child } = await serve(data, { quiet: true });
const browser = await chromium.launch({ executablePath, args: ["--no-sandbox"] });
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto("http://127.0.0.1:4795/trials/2");
  const edge = page.getByLabel(/^Lower edge of band 3,/);
  await edge.waitFor({ timeout: 60_000 });
  await page.waitForTimeout(4000);
  // From the pointer's event to the frame that shows the edge elsewhere, frame by frame along a drag.
  const times = await edge.evaluate(async (ring) => {
    const { performance, PointerEvent, requestAnimationFrame } = globalThis;
    const frame = () => new Promise((resolve) => requestAnimationFrame(resolve));
    const box = ring.getBoundingClientRect();
    const x = box.left + box.width / 2;
    let y = box.top + box.height / 2;
    const send = (type) =>
      ring.dispatchEvent(
        new PointerEvent(type, { bubbles: true, clientX: x, clientY: y, pointerId: 1, button: 0, buttons: 1 }),
      );
    ring.setPointerCapture = () => undefined;
    send("pointerdown");
    const list = [];
    for (let i = 0; i < 30; i++) {
      const before = ring.getAttribute("aria-label");
      y -= 2;
      const started = performance.now();
      send("pointermove");
      while (ring.getAttribute("aria-label") === before && performance.now() - started < 1000) await frame();
      await frame();
      list.push(performance.now() - started);
      await new Promise((resolve) => setTimeout(resolve, 30));
    }
    send("pointerup");
    return list;
  });
  times.sort((a, b) => a - b);
  const [median, slow] = [times[15], times[27]].map((ms) => `${ms.toFixed(0)} ms`);
  console.log(
    `${"dragging a band edge to a redrawn log, median (9 of 10)".padEnd(58)} ${`${median} (${slow})`.padStart(26)}   aim ≤ 100 ms`,
  );
  await measureSheet(page);
  await measureLaying(page);
  await measureTalk(page);
} finally {
  await browser.close();
  child.removeAllListeners("exit");
  child.kill();
  rmSync(data, { recursive: true, force: true });
}

/** A letter typed in a formula of a sheet of 20,000 segments: the time until its strokes are painted anew. */
async function measureSheet(page) {
  const layers = Array.from({ length: 20 }, () => ({
    kind: "circle",
    centre: ["110", "110"],
    radiusMm: "r",
    faces: "50",
  }));
  const sheet = {
    version: 1,
    name: "Bench",
    figures: [{ name: "r", value: "20" }],
    bead: { widthMm: "0.45", heightMm: "0.2" },
    speedMmS: "40",
    items: [{ kind: "repeat", along: "z", count: "20", spacingMm: "0.2", items: layers }],
    keepOut: [],
  };
  const made = await fetch("http://127.0.0.1:4795/api/sheets", {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(sheet),
  });
  const { id } = await made.json();
  await page.goto(`http://127.0.0.1:4795/paths/${id}`);
  const field = page.getByLabel("Value of r");
  await page.getByRole("img", { name: /from above: 400 strokes/ }).waitFor({ timeout: 60_000 });
  await page.waitForTimeout(3000);
  const times = await field.evaluate(async (input) => {
    const { performance, requestAnimationFrame, CanvasRenderingContext2D, Event, HTMLInputElement } = globalThis;
    const frame = () => new Promise((resolve) => requestAnimationFrame(resolve));
    const stroke = CanvasRenderingContext2D.prototype.stroke;
    let painted = 0;
    CanvasRenderingContext2D.prototype.stroke = function (...of) {
      stroke.apply(this, of);
      painted = performance.now();
    };
    const put = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set;
    const list = [];
    for (let i = 0; i < 20; i++) {
      const started = performance.now();
      put.call(input, String(20 + (i % 7)));
      input.dispatchEvent(new Event("input", { bubbles: true }));
      while (painted < started && performance.now() - started < 2000) await frame();
      // Until nothing more is painted.
      for (let last = -1; last !== painted;) {
        last = painted;
        await frame();
        await frame();
      }
      list.push(painted - started);
      await new Promise((resolve) => setTimeout(resolve, 700));
    }
    return list;
  });
  times.sort((a, b) => a - b);
  const [median, slow] = [times[10], times[18]].map((ms) => `${ms.toFixed(0)} ms`);
  console.log(
    `${"a letter in a sheet of 20,000 segments to its picture, median (9 of 10)".padEnd(58)} ${`${median} (${slow})`.padStart(20)}   aim ≤ 50 ms`,
  );
}

/** A photo that is laid on the log: the time from frame to frame while a ring is dragged. */
async function measureLaying(page) {
  const call = async (path, body, type = "application/json") => {
    const answer = await fetch(`http://127.0.0.1:4795/api${path}`, {
      method: "POST",
      headers: { "Content-Type": type },
      body,
    });
    return answer.json();
  };
  const { id } = await call("/trials/2/runs", "{}");
  const picture = await sharp({ create: { width: 2000, height: 1500, channels: 3, background: "#b98a2f" } })
    .jpeg()
    .toBuffer();
  await call(`/runs/${id}/photos`, picture, "image/jpeg");
  await page.goto("http://127.0.0.1:4795/trials/2?step=read");
  const ring = page.getByRole("button", { name: /Top edge of the piece/ });
  await ring.waitFor({ timeout: 60_000 });
  await page.waitForTimeout(1500);
  const times = await ring.evaluate(async (element) => {
    const { performance, PointerEvent, requestAnimationFrame } = globalThis;
    const frame = () => new Promise((resolve) => requestAnimationFrame(resolve));
    element.hasPointerCapture = () => true;
    element.setPointerCapture = () => undefined;
    const box = element.getBoundingClientRect();
    const list = [];
    let last = await frame().then(() => performance.now());
    for (let i = 0; i < 90; i++) {
      const [clientX, clientY] = [box.left + 13, box.top + 13 + (i % 40)];
      element.dispatchEvent(
        new PointerEvent("pointermove", { bubbles: true, clientX, clientY, pointerId: 1, buttons: 1 }),
      );
      await frame();
      const now = performance.now();
      list.push(now - last);
      last = now;
    }
    return list;
  });
  times.sort((a, b) => a - b);
  const [median, slow] = [times[45], times[81]].map((ms) => `${ms.toFixed(0)} ms`);
  console.log(
    `${"laying a photo on the log, a frame, median (9 of 10)".padEnd(58)} ${`${median} (${slow})`.padStart(26)}   aim ≤ 17 ms`,
  );
}

/** From sending a line to its answer on the screen, at 200 lines a second: the stamp in the line tells. */
async function measureTalk(page) {
  await page.goto("http://127.0.0.1:4795/printer/1");
  const post = (path, body) =>
    fetch(`http://127.0.0.1:4795/api${path}`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(body),
    });
  await post("/link/connect", { printerId: 1, transport: { kind: "simulated", rate: 1 } });
  await post("/link/lines", { printerId: 1, lines: ["M115"] });
  await page.getByRole("log").waitFor();
  await page.evaluate(() => {
    const { document, MutationObserver } = globalThis;
    globalThis.delays = [];
    const seen = new Set();
    new MutationObserver(() => {
      // What came back begins with the stamp; what was sent, with its command.
      for (const raw of document.querySelectorAll("[role=log] span")) {
        const stamp = /^(?:echo:)?stamp (\d+) \S+$/.exec(raw.textContent.trim());
        if (!stamp || seen.has(stamp[0])) continue;
        seen.add(stamp[0]);
        globalThis.delays.push(Date.now() - Number(stamp[1]));
      }
    }).observe(document.querySelector("[role=log]"), { subtree: true, childList: true, characterData: true });
  });
  // Five lines every fifty milliseconds: a hundred lines and a hundred answers with their ok, 300 events a second.
  for (let i = 0; i < 60; i++) {
    void post("/link/lines", {
      printerId: 1,
      lines: Array.from({ length: 5 }, (_, n) => `M118 stamp ${Date.now()} ${i}-${n}`),
    });
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  await page.waitForTimeout(800);
  const delays = (await page.evaluate(() => globalThis.delays)).sort((a, b) => a - b);
  const at = (share) => `${delays[Math.floor((delays.length - 1) * share)]} ms`;
  console.log(
    `${"a printer's line to the screen at 200 a second, median (9 of 10)".padEnd(58)} ${`${at(0.5)} (${at(0.9)})`.padStart(20)}   aim ≤ 100 ms, ${delays.length} seen`,
  );
}
