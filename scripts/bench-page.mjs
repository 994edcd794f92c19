/** How soon the page answers a hand on the height log: part of `npm run bench`, where a browser is installed. */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "@playwright/test";
import { bin, browserPath, build, run, serve } from "./prepare.mjs";

const executablePath = browserPath();
if (!executablePath) {
  console.log("No browser is installed, so the page is not measured.");
  process.exit(0);
}
build();
const data = mkdtempSync(join(tmpdir(), "cuchara-bench-page-"));
run(bin("tsx"), ["scripts/make-demo.ts"], { CUCHARA_DATA: data });
process.env.PORT = "4795";
const { child } = await serve(data, { announce: false });
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
} finally {
  await browser.close();
  child.removeAllListeners("exit");
  child.kill();
  rmSync(data, { recursive: true, force: true });
}
