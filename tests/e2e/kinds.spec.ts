import { APIRequestContext, expect, Page } from "@playwright/test";
import { expectAccessible, makeTrial, openTrial, textOf, test, openNewTrialForm } from "./helpers";
import { mainSpeed, ReadLayer, readLayers } from "./program-reader";

// One page for all: a new one would load everything again for every kind.
let page: Page;
test.beforeAll(async ({ browser, request }) => {
  page = await browser.newPage();
  // A page that breaks says why beside the test that finds it so.
  page.on("pageerror", (error) => console.error(error.stack));
  await request.put("/api/bench", { data: { printerId: 1, spoolId: 1 } });
});
test.afterAll(() => page.close());

interface Band {
  firstLayer: number;
  lastLayer: number;
  settings: Record<string, number>;
}

interface Made {
  program: string;
  layers: ReadLayer[];
  bands: Band[];
  plan: { sideBySide?: { values: number[] } };
}

/** Opens a menu and takes what it offers. */
async function fromMenu(button: string, item: string): Promise<void> {
  await page.getByRole("button", { name: button }).click();
  await page.getByRole("menuitem", { name: item, exact: true }).click();
}

/** From the list of trials to the downloaded file, as a user goes. */
async function fromNewTrialToFile(request: APIRequestContext, kind: string): Promise<Made> {
  await openNewTrialForm(page);
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("What to find out").selectOption(kind);
  await page.getByRole("button", { name: "Make the trial" }).click();
  await expect(page.getByRole("button", { name: "Get the file" })).toBeEnabled({ timeout: 40_000 });
  const waiting = page.waitForEvent("download");
  await page.getByRole("button", { name: "Get the file" }).click();
  const program = await textOf(await waiting);
  const trial = (await (await request.get(`/api${new URL(page.url()).pathname}`)).json()) as Pick<
    Made,
    "bands" | "plan"
  >;
  return { program, layers: readLayers(program), bands: trial.bands, plan: trial.plan };
}

/** Holds what the file does in the middle of every band against the plan. */
function expectAtMidBand(
  { layers, bands }: Made,
  key: string,
  read: (layer: ReadLayer) => number,
  tolerance = 0.001,
): void {
  expect(bands.length).toBeGreaterThan(1);
  for (const { firstLayer, lastLayer, settings } of bands) {
    const value = read(layers[Math.floor((firstLayer + lastLayer) / 2)]);
    expect(Math.abs(value - settings[key]), `${key} ${settings[key]}, the file has ${value}`).toBeLessThanOrEqual(
      tolerance,
    );
  }
}

/** The last command of a kind before each band's first material. */
function lastBefore(program: string, layer: number, command: RegExp): string | undefined {
  const lines = program.split("\n");
  const opens = lines.findIndex((line) => line.startsWith(`; layer ${layer + 1} of`));
  const lays = lines.findIndex((line, i) => i > opens && /^G1 .*X.*E/.test(line));
  return lines
    .slice(0, lays)
    .findLast((line) => command.test(line))
    ?.split(" ;")[0];
}

const plain = (value: number) => String(Math.round(value * 1e4) / 1e4);

test("fan: off below the test, whole duties, shown beside the percentages", async ({ request }) => {
  const made = await fromNewTrialToFile(request, "Fan");
  expectAtMidBand(made, "fan", ({ fanDuty }) => (fanDuty * 100) / 255, 0.2);
  for (const layer of made.layers.slice(0, made.bands[0].firstLayer)) expect(layer.fanDuty).toBe(0);
  await expect(page.getByText("duty 51 of 255")).toBeVisible();
});

test("retraction: the lengths really drawn back between the posts", async ({ request }) => {
  const made = await fromNewTrialToFile(request, "Retraction");
  for (const { firstLayer, lastLayer, settings } of made.bands) {
    const { retractions } = made.layers[Math.floor((firstLayer + lastLayer) / 2)];
    expect(retractions.length).toBeGreaterThanOrEqual(4);
    for (const { lengthMm } of retractions) expect(lengthMm).toBeCloseTo(settings.retractionLength, 4);
  }
  // Speeds are another choice of the same kind.
  await page.getByLabel("Try", { exact: true }).selectOption("speeds");
  await expect(page.getByLabel(/^Band 1,.*mm\/s$/)).toHaveValue("10");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByLabel(/^Band 1,.* mm$/)).toHaveValue("0.5");
});

test("retraction matrix: each post's pair", async ({ request }) => {
  const { layers, bands, plan } = await fromNewTrialToFile(request, "Retraction matrix");
  const lengths = plan.sideBySide!.values;
  expect(lengths.length).toBe(9);
  for (const { firstLayer, lastLayer, settings } of bands) {
    const { retractions } = layers[Math.floor((firstLayer + lastLayer) / 2)];
    for (const { speedMmS } of retractions) expect(speedMmS).toBeCloseTo(settings.retractionSpeed, 2);
    // Post 1 stands in front, the others follow round the ring, counter-clockwise seen from above.
    const middle = { x: 110, y: 114.25 };
    const byPost = lengths.map(() => new Set<number>());
    for (const { x, y, lengthMm } of retractions) {
      const turn = (Math.atan2(y - middle.y, x - middle.x) + Math.PI / 2 + 2 * Math.PI) / (2 * Math.PI);
      byPost[Math.round(turn * lengths.length) % lengths.length].add(lengthMm);
    }
    byPost.forEach((drawn, post) => expect([...drawn]).toEqual([lengths[post]]));
  }
  await page.getByRole("tab", { name: "Bands" }).click();
  await page.getByLabel("Retraction length side by side, mm").fill("1 2 x");
  await expect(page.getByText(/“x” is not a number/)).toBeVisible();
  await page.getByLabel("Retraction length side by side, mm").fill("1 2 3,5");
  await expect(page.getByText("3 values, each on its own spot")).toBeVisible();
});

test("a length of the matrix is kept from its values", async ({ request }) => {
  const id = await makeTrial(request, { kind: "retraction-matrix", printerId: 3, spoolId: 5 });
  await openTrial(page, id);
  await fromMenu("Keep a retraction length …", "1.5 mm");
  const kept = async () => (await (await request.get("/api/kept?printerId=3&spoolId=5")).json()) as object[];
  await expect.poll(kept).toMatchObject([{ setting: "retractionLength", value: 1.5, trialId: id }]);
});

test("flow", async ({ request }) => {
  expectAtMidBand(await fromNewTrialToFile(request, "Flow"), "flowFactor", ({ flowPercent }) => flowPercent);
});

test("speed: most of every layer is laid at the band's own", async ({ request }) => {
  expectAtMidBand(await fromNewTrialToFile(request, "Speed"), "printSpeed", mainSpeed, 0.02);
});

test("acceleration, cornering, pressure advance: the last command before each band", async ({ request }) => {
  const acceleration = await fromNewTrialToFile(request, "Acceleration");
  expectAtMidBand(acceleration, "acceleration", ({ accelerationMmS2 }) => accelerationMmS2);
  for (const { firstLayer, settings } of acceleration.bands) {
    expect(lastBefore(acceleration.program, firstLayer, /^M204/)).toBe(`M204 P${plain(settings.acceleration)}`);
  }
  // The others by the shorter way.
  const made = async (body: object) => {
    const id = await makeTrial(request, { printerId: 1, spoolId: 1, ...body });
    const program = await (await request.get(`/api/trials/${id}/gcode`)).text();
    const trial = (await (await request.get(`/api/trials/${id}`)).json()) as { bands: Band[]; plan: Made["plan"] };
    return { id, program, layers: readLayers(program), ...trial };
  };
  const jerk = await made({ kind: "cornering" });
  expectAtMidBand(jerk, "jerk", ({ jerkMmS }) => jerkMmS);
  for (const { firstLayer, settings } of jerk.bands) {
    expect(lastBefore(jerk.program, firstLayer, /^M205/)).toBe(
      `M205 X${plain(settings.jerk)} Y${plain(settings.jerk)}`,
    );
  }
  await openTrial(page, jerk.id);
  await expect(page.getByText("like deviation 0.0256 mm")).toBeVisible();
  // The printer that has the other figure.
  const deviation = await made({ kind: "cornering", printerId: 2 });
  for (const { firstLayer, settings } of deviation.bands) {
    expect(lastBefore(deviation.program, firstLayer, /^M205/)).toBe(`M205 J${plain(settings.junctionDeviation)}`);
  }
  const advance = await made({ kind: "pressure-advance", options: { form: "tower" } });
  expectAtMidBand(advance, "pressureAdvance", ({ advanceS }) => advanceS);
  for (const { firstLayer, settings } of advance.bands) {
    expect(lastBefore(advance.program, firstLayer, /^M900/)).toBe(`M900 K${plain(settings.pressureAdvance)}`);
  }
});

test("pressure advance as flat lines, each with its own value and its number beside it", async ({ request }) => {
  const id = await makeTrial(request, {
    kind: "pressure-advance",
    printerId: 1,
    spoolId: 1,
    options: { form: "lines" },
  });
  await openTrial(page, id);
  await expect(page.getByRole("tab", { name: "Height log" })).toHaveCount(0);
  const program = await (await request.get(`/api/trials/${id}/gcode`)).text();
  // One a line, and the printer's own again at the end; the start says nothing of it.
  const values = [...program.matchAll(/^M900 K([\d.]+)$/gm)].map(([, value]) => Number(value));
  expect(values.slice(0, 11)).toEqual([0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1]);
  // Slow, fast, slow: 20, 80, 20 mm/s on every line.
  const first = program.slice(program.indexOf("M900 K0.1"));
  expect(
    first
      .split("\n")
      .slice(1, 4)
      .map((line) => /F(\d+)/.exec(line)?.[1]),
  ).toEqual(["1200", "4800", "1200"]);
});

test("bridging: cooled before the span, three layers of their own, warm again", async ({ request }) => {
  const { layers, bands } = await fromNewTrialToFile(request, "Bridging");
  const band = bands[1];
  const deck = band.lastLayer - 2;
  expect(layers[band.firstLayer + 2].nozzleC).toBe(210);
  expect(layers.slice(deck - 3, deck + 3).map(({ nozzleC }) => nozzleC)).toEqual(new Array(6).fill(205));
  expect(layers[deck - 4].nozzleC).toBe(210);
  expect(layers.slice(deck - 1, deck + 3).map(({ flowPercent }) => flowPercent)).toEqual([100, 90, 95, 100]);
  // Strands over air are slow, the walls of the posts beside them are not.
  expect(layers[deck].laid.get(10)).toBeGreaterThan(100);
  expect(layers[deck].laid.get(40) ?? 0).toBeGreaterThan(100);
  await page.getByLabel("Cool the nozzle before").fill("2");
  await expect(page.getByRole("button", { name: "Get the file" })).toBeEnabled();
  await expectAccessible(page);
});

test("extrusion: a feed without motion, tracks with their widths, a ring of one wall", async ({ request }) => {
  const { program, layers } = await fromNewTrialToFile(request, "Extrusion");
  expect(program).toMatch(/\nG0 Z50 F600\nG0 X110 Y8 F3000\nM117 Mark at 120 mm, then go on\nM0\nG1 E100 F100\n/);
  expect(program).toMatch(/0\.4 mm wide/);
  // The ring goes on alone above the first layer: 30 mm across, so 94 mm a layer.
  const laid = [...layers[10].laid.values()].reduce((sum, mm) => sum + mm, 0);
  expect(laid).toBeGreaterThan(93);
  expect(laid).toBeLessThan(95);
});

test("where a dialect cannot, it says why and hands out no file", async ({ request }) => {
  const id = await makeTrial(request, { kind: "pressure-advance", printerId: 4, spoolId: 1 });
  await page.goto(`/trials/${id}`);
  await expect(page.getByText(/no command for pressure advance/)).toBeVisible({ timeout: 40_000 });
  await expect(page.getByRole("button", { name: "Get the file" })).toBeDisabled();
  const refused = await request.get(`/api/trials/${id}/gcode`);
  expect(refused.status()).toBe(422);
});

test("two settings in one plan, lines of one's own, export, and a copy for another printer", async ({ request }) => {
  const id = await makeTrial(request, { kind: "cornering", printerId: 1, spoolId: 1 });
  await openTrial(page, id);
  await page.getByRole("tab", { name: "Bands" }).click();
  await fromMenu("Vary another setting …", "Fan");
  await page.getByLabel("Fan of band 2").fill("60");
  await page.getByRole("button", { name: "own lines of band 2" }).click();
  await page.getByLabel("Own lines", { exact: true }).fill("M117 Two");
  await page.getByRole("button", { name: "Take the lines" }).click();
  await expect(page.getByRole("button", { name: "Get the file" })).toBeEnabled();
  await expect
    .poll(async () => await (await request.get(`/api/trials/${id}/plan?as=csv`)).text())
    .toContain("4.6,8.6,60,6");
  const program = async () => await (await request.get(`/api/trials/${id}/gcode`)).text();
  await expect
    .poll(async () => (await program()).match(/^M117.*$/m)?.[0])
    .toBe("M117 Two ; cuchara: band 2/6 line from 4.6 mm");
  expect((await program()).match(/^M106.*band 2.*$/m)?.[0]).toBe("M106 S153 ; cuchara: band 2/6 fan 60 from 4.6 mm");
  // On a printer with junction deviation the same cornering is said in its own figure.
  await page.goto("/trials");
  await page.getByRole("listitem").first().getByRole("button", { name: "Copy to …" }).click();
  await page.getByRole("dialog").getByLabel("Printer").selectOption("Whisk 300");
  await page.getByRole("button", { name: "Make the copy" }).click();
  await expect(page.getByLabel("Name of the trial")).toHaveValue(/\(copy\)/);
  const copyId = new URL(page.url()).pathname.split("/").pop();
  const copy = (await (await request.get(`/api/trials/${copyId}`)).json()) as { bands: Band[] };
  // δ ≈ 0.4·j²/a with j 8 mm/s and a 1500 mm/s² (common practice, no source).
  expect(copy.bands[2].settings.junctionDeviation).toBeCloseTo((0.4 * 64) / 1500, 4);
});

test("a value is kept, and the next trial holds it fixed", async ({ request }) => {
  const id = await makeTrial(request, { kind: "temperature", printerId: 2, spoolId: 6 });
  await openTrial(page, id);
  await page.getByRole("slider", { name: /layer/i }).first().focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press("Shift+ArrowUp");
  await page.getByRole("button", { name: /^Keep \d+ °C of band 3$/ }).click();
  await expect(page.getByText("Nozzle temperature 210 °C.")).toBeVisible();
  const next = (await (
    await request.post("/api/trials", { data: { kind: "flow", printerId: 2, spoolId: 6 } })
  ).json()) as { fixed: Record<string, number> };
  expect(next.fixed.nozzleTemperature).toBe(210);
  await page.getByRole("button", { name: "Take it back" }).click();
  await expect(page.getByText(/No nozzle temperature yet/)).toBeVisible();
});

test("what was tried together is kept together by one key, stands in the list of all, and can be taken back", async ({
  request,
}) => {
  const id = await makeTrial(request, {
    kind: "temperature",
    printerId: 2,
    spoolId: 6,
    plan: {
      baseHeightMm: 1,
      bands: [
        { heightMm: 8, settings: { nozzleTemperature: 215, fan: 40 } },
        { heightMm: 8, settings: { nozzleTemperature: 205, fan: 70 } },
      ],
    },
  });
  await openTrial(page, id);
  await page.getByRole("slider", { name: /layer/i }).first().focus();
  await page.keyboard.press("Shift+ArrowUp");
  await page.keyboard.press("Shift+ArrowUp");
  await page.keyboard.press("k");
  await expect(page.getByText(/205 °C and 70 %.* kept; later trials hold/)).toBeVisible();
  const pair = (await (await request.get("/api/kept?printerId=2&spoolId=6")).json()) as {
    setting: string;
    value: number;
  }[];
  expect(pair).toEqual(
    expect.arrayContaining([
      expect.objectContaining({ setting: "nozzleTemperature", value: 205 }),
      expect.objectContaining({ setting: "fan", value: 70 }),
    ]),
  );
  const downloading = page.waitForEvent("download");
  await page.keyboard.press("d");
  expect((await downloading).suggestedFilename()).toMatch(/\.gcode$/);
  await page.goto("/shelf/kept");
  const rows = page.getByRole("listitem").filter({ hasText: "Whisk 300" });
  for (const value of ["205 °C", "70 %"]) {
    const row = rows.filter({ hasText: value });
    await row.getByRole("button", { name: "Take it back" }).click();
    await expect(row).toHaveCount(0);
  }
  await expectAccessible(page);
});
