import { expect } from "@playwright/test";
import { Clicker, makeTrial, openTrial, temperatureAtLayers, textOf, test } from "./helpers";

test("from the first screen to a downloaded tower in at most six clicks", async ({ page, request }) => {
  // A spool that nobody has asked yet.
  const label = { labelMinC: 195, labelMaxC: 225 };
  const made = await request.post("/api/spools", { data: { name: "PLA Barley", material: "PLA", ...label } });
  await request.put("/api/bench", { data: { printerId: 1, spoolId: ((await made.json()) as { id: number }).id } });
  await page.goto("/");
  const click = new Clicker(page);
  await click.button(/^Ask$/);
  await expect(page.getByRole("button", { name: "Get the file" })).toBeEnabled({ timeout: 30_000 });
  const waiting = page.waitForEvent("download");
  await click.button("Get the file");
  const program = await textOf(await waiting);
  expect(click.count).toBeLessThanOrEqual(6);

  // Label 195–225 °C, 5 °C a band, hottest at the bottom, 4.6 mm each on a base of 0.6 mm.
  const layers = temperatureAtLayers(program);
  expect(layers.length).toBe(164);
  [225, 220, 215, 210, 205, 200, 195].forEach((nozzleC, band) => {
    const from = 0.6 + band * 4.6;
    const inside = layers.filter(({ zMm }) => zMm > from + 0.2 && zMm <= from + 4.6);
    expect(inside.length).toBeGreaterThan(20);
    for (const layer of inside) expect(layer).toMatchObject({ nozzleC });
  });
  expect(layers[0].nozzleC).toBe(225);
  expect(program.trimEnd().split("\n").slice(-7).join(" ")).toContain("M104 S0");
  await request.put("/api/bench", { data: { printerId: 1, spoolId: 1 } });
});

test("the file built in the browser and the one from the server are the same bytes", async ({ page, request }) => {
  const id = await makeTrial(request, {
    kind: "temperature",
    printerId: 5,
    spoolId: 2,
    layerHeightMm: 0.25,
    firstLayerHeightMm: 0.3,
    plan: {
      baseHeightMm: 1,
      bands: [
        { heightMm: 7, settings: { nozzleTemperature: 215 } },
        { heightMm: 6.5, settings: { nozzleTemperature: 200 } },
      ],
    },
  });
  await openTrial(page, id);
  const fromServer = await (await request.get(`/api/trials/${id}/gcode`)).body();
  // The page's worker, asked for its bytes the way the program view asks.
  await page.getByRole("tab", { name: "Program" }).click();
  await expect(page.locator(".cm-line").first()).toContainText("Cuchara");
  const shown = await page.evaluate(async () => {
    const view = document.querySelector(".cm-content") as unknown as {
      cmTile?: { view: { state: { doc: { toString(): string } } } };
      cmView?: { view: { state: { doc: { toString(): string } } } };
    };
    return (view.cmTile ?? view.cmView)!.view.state.doc.toString();
  });
  expect(shown).toBe(fromServer.toString("utf8"));
});

test("editing the plan: type a value, drag an edge, undo, and it is stored", async ({ page, request }) => {
  const id = await makeTrial(request, { kind: "temperature", printerId: 1, spoolId: 1 });
  await openTrial(page, id);
  const field = page.getByLabel(/^Band 3,/);
  await field.fill("212");
  await expect(async () => {
    const { plan } = (await (await request.get(`/api/trials/${id}`)).json()) as {
      plan: { bands: { settings: { nozzleTemperature: number } }[] };
    };
    expect(plan.bands[2].settings.nozzleTemperature).toBe(212);
  }).toPass();

  await page.waitForTimeout(800);
  const edge = page.getByLabel(/^Lower edge of band 2,/);
  const box = (await edge.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 - 24, { steps: 6 });
  await page.mouse.up();
  await expect(page.getByLabel(/^Lower edge of band 2, at ([6-9]|1\d)/)).toBeVisible();

  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByLabel(/^Lower edge of band 2, at 5.2 mm/)).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByLabel(/^Band 3,/)).toHaveValue("215");
  await page.getByRole("button", { name: "Redo" }).click();
  await expect(page.getByLabel(/^Band 3,/)).toHaveValue("212");
});

test("a wrong number says why next to itself and changes nothing", async ({ page, request }) => {
  const id = await makeTrial(request, { kind: "temperature", printerId: 1, spoolId: 1 });
  await openTrial(page, id);
  await page.getByLabel(/^Band 3,/).fill("hot");
  await expect(page.getByText("“hot” is not a number")).toBeVisible();
  await page.waitForTimeout(600);
  const { plan } = (await (await request.get(`/api/trials/${id}`)).json()) as {
    plan: { bands: { settings: object }[] };
  };
  expect(plan.bands[2].settings).toEqual({ nozzleTemperature: 215 });
});

test("a finding stops the file, and its mend frees it", async ({ page, request }) => {
  const id = await makeTrial(request, { kind: "temperature", printerId: 1, spoolId: 1 });
  await openTrial(page, id);
  await page.getByLabel(/^Band 1,/).fill("300");
  await expect(page.getByText(/The nozzle is set to 300 °C; Ladle 220 allows 260 °C/)).toBeVisible();
  await expect(page.getByRole("button", { name: "Get the file" })).toBeDisabled();
  await page.getByRole("button", { name: "Lower to 260 °C" }).click();
  await expect(page.getByRole("button", { name: "Get the file" })).toBeEnabled();
  await expect(page.getByLabel(/^Band 1,/)).toHaveValue("260");
});

test("the bands as a table: add, remove, fill, paste", async ({ page, request }) => {
  const id = await makeTrial(request, { kind: "temperature", printerId: 1, spoolId: 1 });
  await openTrial(page, id);
  await page.getByRole("tab", { name: "Bands" }).click();
  await page.getByRole("button", { name: "Add a band on top" }).click();
  await expect(page.getByLabel("Nozzle temperature of band 8")).toHaveValue("190");
  await page.getByRole("button", { name: "Remove band 8" }).click();
  await expect(page.getByLabel("Nozzle temperature of band 8")).toHaveCount(0);

  await page.getByRole("button", { name: "Paste a list …" }).click();
  await page.getByRole("textbox", { name: "List of bands" }).fill("2\t230\n10\t220\n18\tnonsense");
  await expect(page.getByRole("button", { name: "Take the bands" })).toBeDisabled();
  await page.getByRole("textbox", { name: "List of bands" }).fill("2\t222\n10\t214\n18\t206");
  await page.getByRole("button", { name: "Take 3 bands" }).click();
  await expect(page.getByLabel("Nozzle temperature of band 3")).toHaveValue("206");
  await expect(page.getByLabel("Height of the base")).toHaveValue("2");

  await page.getByRole("button", { name: "Fill values …" }).click();
  await page.getByLabel("Bands", { exact: true }).fill("5");
  await page.getByRole("button", { name: "Make 5 bands" }).click();
  await expect(page.getByLabel("Nozzle temperature of band 5")).toHaveValue("190");
});

test("the cursor layer moves by keys and is named in millimetres and layer", async ({ page, request }) => {
  const id = await makeTrial(request, { kind: "temperature", printerId: 1, spoolId: 1 });
  await openTrial(page, id);
  const log = page.getByRole("slider", { name: "Height log of the trial: cursor layer" });
  await log.focus();
  await page.keyboard.press("Home");
  await page.keyboard.press("ArrowUp");
  await expect(log).toHaveAttribute("aria-valuetext", "layer 2 of 164, top at 0.4 mm");
  await page.keyboard.press("Shift+ArrowUp");
  await expect(log).toHaveAttribute("aria-valuetext", "layer 4 of 164, top at 0.8 mm");
  await page.keyboard.press("End");
  await expect(log).toHaveAttribute("aria-valuenow", "164");
  await page.keyboard.press("f");
  await expect(page.getByRole("dialog", { name: "Fill the bands" })).toBeVisible();
});

test("all views of a trial draw something, in both steps", async ({ page, request }) => {
  const id = await makeTrial(request, { kind: "temperature", printerId: 1, spoolId: 1 });
  const errors: string[] = [];
  page.on("pageerror", (error) => errors.push(error.message));
  await openTrial(page, id);
  await page.getByRole("tab", { name: "Check" }).click();
  await expect(
    page.getByRole("region", { name: "Nozzle over time" }).locator("path.recharts-curve").first(),
  ).toBeVisible();
  await page.getByRole("tab", { name: "From above" }).click();
  await expect(page.getByRole("img", { name: /seen from above/ })).toBeVisible();
  await page.getByRole("tab", { name: "3D path" }).click();
  await expect(page.locator("canvas").first()).toBeVisible();
  await page.getByRole("tab", { name: "Program" }).click();
  await page.getByRole("button", { name: "Next marked line" }).click();
  await expect(page.locator(".cm-inserted").first()).toContainText("cuchara: band 1/7 nozzle 225");
  expect(errors).toEqual([]);
});

test("edits faster than the worker builds end with the last one, everywhere", async ({ page, request }) => {
  const id = await makeTrial(request, { kind: "temperature", printerId: 1, spoolId: 2 });
  await openTrial(page, id);
  for (const value of ["219", "218", "217", "216"]) await page.getByLabel(/^Band 2,/).fill(value);
  await page.getByRole("tab", { name: "Program" }).click();
  await page.getByRole("button", { name: "Next marked line" }).click();
  await page.getByRole("button", { name: "Next marked line" }).click();
  await expect(page.locator(".cm-inserted").filter({ hasText: "band 2/9 nozzle 216" })).toBeVisible();
  await expect(async () => {
    expect(await (await request.get(`/api/trials/${id}/gcode`)).text()).toContain("band 2/9 nozzle 216");
  }).toPass();
});

test("the program says what the line under the cursor means, and what holds there", async ({ page }) => {
  await page.goto("/trials/2");
  await page.getByRole("tab", { name: "Program" }).click();
  const card = page.getByRole("region", { name: "The line under the cursor" });
  await page.getByRole("button", { name: "Next marked line" }).click();
  await expect(card.getByText(/^Line \d+$/)).toBeVisible();
  await expect(card.getByText(/°C/).first()).toBeVisible();
  const before = await card.innerText();
  await page.getByLabel("Program text").press("ArrowDown");
  await expect(card).not.toHaveText(before);
});
