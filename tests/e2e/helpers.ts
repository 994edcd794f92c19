import { APIRequestContext, BrowserContext, Download, expect, Page, test as base } from "@playwright/test";
import { readFileSync } from "node:fs";
import axe from "axe-core";
import { benches } from "./benches";

/**
 * The pages of a worker share one browser window's cache, so that the program's script is read once and not for every test; what a page
 * keeps in it is cleared. Pages are used once their script runs: filling a field takes two steps of the driver, and no hand types between them.
 */
export const test = base.extend<object, { shared: BrowserContext; alone: void }>({
  // eslint-disable-next-line no-empty-pattern -- the runner reads from this pattern that nothing else is needed
  baseURL: async ({}, use, { parallelIndex }) => use(`http://127.0.0.1:${benches[parallelIndex].port}`),
  // What one test keeps is not to move the first rounds of another: only the test of that asks for it.
  alone: [
    // eslint-disable-next-line no-empty-pattern -- the runner reads from this pattern that nothing else is needed
    async ({}, use, { parallelIndex }) => {
      await heedEarlier(benches[parallelIndex].port, false);
      await use();
    },
    { scope: "worker", auto: true },
  ],
  shared: [
    async ({ browser }, use, { parallelIndex, project }) => {
      const { viewport, acceptDownloads } = project.use;
      const baseURL = `http://127.0.0.1:${benches[parallelIndex].port}`;
      const context = await browser.newContext({ viewport, acceptDownloads, baseURL, reducedMotion });
      // Stays open, and the process that it shares with those of the tests with it.
      await (await context.newPage()).goto("/api/health");
      await use(context);
      await context.close();
    },
    { scope: "worker" },
  ],
  context: async ({ shared }, use) => {
    await use(shared);
    await shared.clearCookies();
  },
  page: async ({ context }, use) => {
    const page = await context.newPage();
    const go = page.goto.bind(page);
    page.goto = async (...given) => {
      const response = await go(...given);
      if (response?.ok()) await page.locator("html[data-ready]").waitFor({ state: "attached" });
      return response;
    };
    await use(page);
    await page.evaluate(() => localStorage.clear()).catch(() => undefined);
    await page.close();
  },
});

/** The driver presses faster than any hand: what still unfolds would slide away from under it. */
const reducedMotion = "reduce";

/** Whether first rounds are placed by what earlier spools wanted. */
export async function heedEarlier(port: number | string, expectsAlike: boolean): Promise<void> {
  const answer = await fetch(`http://127.0.0.1:${port}/api/program`, {
    method: "PUT",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ expectsAlike }),
  });
  expect(answer.ok).toBe(true);
}

/** The downloaded file's text. */
export async function textOf(download: Download): Promise<string> {
  return readFileSync(await download.path(), "utf8");
}

/** Clicks and counts. */
export class Clicker {
  count = 0;
  constructor(private readonly page: Page) {}
  async button(name: string | RegExp): Promise<void> {
    this.count++;
    await this.page.getByRole("button", { name }).first().click();
  }
}

/** The nozzle temperature in force at every layer, read with a few lines of its own and nothing of the program's core. */
export function temperatureAtLayers(program: string): { layer: number; zMm: number; nozzleC: number }[] {
  const layers: { layer: number; zMm: number; nozzleC: number }[] = [];
  let nozzleC = 0;
  let z = 0;
  let open = false;
  for (const line of program.split(/\r?\n/)) {
    if (/^; layer \d+ of/.test(line)) open = true;
    const heat = /^M10[49]\b.*\bS(\d+)/.exec(line);
    if (heat) nozzleC = Number(heat[1]);
    const move = /^G[01]\b/.test(line);
    const lifted = move && /\bZ([\d.]+)/.exec(line);
    if (lifted) z = Number(lifted[1]);
    if (open && move && /[XY]/.test(line) && /E[\d.]/.test(line)) {
      layers.push({ layer: layers.length + 1, zMm: z, nozzleC });
      open = false;
    }
  }
  return layers;
}

/** Fails with what axe finds on the page as it stands, by all its rules or only those named. */
export async function expectAccessible(page: Page, rules?: string[]): Promise<void> {
  await expect(page).toHaveTitle(/./);
  // Colours on their way from one to the other are no contrast to measure.
  await page.waitForTimeout(400);
  await page.evaluate(axe.source);
  const violations = await page.evaluate(async (only) => {
    const results = await (
      window as unknown as {
        axe: {
          run(
            context: Document,
            options: object,
          ): Promise<{ violations: { id: string; nodes: { html: string; failureSummary: string }[] }[] }>;
        };
      }
    ).axe.run(document, { resultTypes: ["violations"], ...(only && { runOnly: only }) });
    return results.violations.map(
      ({ id, nodes }) =>
        `${id}: ${nodes.map(({ html, failureSummary }) => `${html.slice(0, 140)} — ${failureSummary}`).join("\n   ")}`,
    );
  }, rules);
  expect(violations).toEqual([]);
}

/** A new trial over HTTP; its id. */
export async function makeTrial(request: APIRequestContext, body: object): Promise<number> {
  const response = await request.post("/api/trials", { data: body });
  expect(response.status()).toBe(201);
  return ((await response.json()) as { id: number }).id;
}

/** Opens a trial's page and waits until its file is built. */
export async function openTrial(page: Page, id: number): Promise<void> {
  await page.goto(`/trials/${id}`);
  // The file can be had before the page's script runs.
  await page.locator("html[data-ready]").waitFor({ state: "attached" });
  await expect(page.getByRole("button", { name: "Get the file" })).toBeEnabled({ timeout: 30_000 });
}

/** A simple sliced file: a tube, its layers opened by comments that count from `countsFrom`. */
export function slicedTube(layers: number, opens: (index: number) => string, lineEnd = "\n"): string {
  const lines = ["M140 S60", "M104 S210", "G28", "M109 S210", "G90", "M82", "G92 E0"];
  let e = 0;
  for (let i = 0; i < layers; i++) {
    lines.push(
      opens(i),
      `G1 E${(e - 3).toFixed(4)} F2400`,
      `G0 X40 Y40 Z${(0.2 + i * 0.2).toFixed(2)} F6000`,
      `G1 E${e.toFixed(4)} F2400`,
    );
    for (const [x, y] of [
      [70, 40],
      [70, 70],
      [40, 70],
      [40, 41],
    ]) {
      e += 1.0155;
      lines.push(`G1 X${x} Y${y} E${e.toFixed(4)} F1800`);
    }
  }
  lines.push("M104 S0", "M140 S0", "M107", "M84", "");
  return lines.join(lineEnd);
}

/** The form of a new trial, from the list of trials: for another printer, spool or piece than the gallery shows. */
export async function openNewTrialForm(page: Page): Promise<void> {
  await page.goto("/trials");
  await page.getByRole("link", { name: "New trial" }).first().click();
  await page.getByRole("button", { name: "Other printer, spool or piece …" }).click();
}
