/** Paths: a sheet from nothing to a downloaded file, a wrong formula, the order of repeats, and play. */
import { expect } from "@playwright/test";
import { expectAccessible, test, textOf } from "./helpers";

test("touching rings from an empty sheet to a downloaded file; a wrong formula is said at its row; played", async ({
  page,
  request,
}) => {
  await page.goto("/paths");
  await page.getByRole("button", { name: "New sheet" }).click();
  await expect(page.getByLabel("Name of the sheet")).toHaveValue("New sheet");
  await page.getByLabel("Name of the sheet").fill("Touching rings");
  await expect(page.getByRole("img", { name: "The sheet from above: 20 strokes" })).toBeVisible();
  // A repeat along X round the ring: put in, the ring moved into it.
  await page.getByLabel("Lay more in row 1").selectOption({ label: "repeat" });
  await page.getByRole("button", { name: "Earlier, row 1.2" }).click();
  await page.getByRole("button", { name: "Into what stands before it, row 1.2" }).click();
  await page.getByLabel("times, row 1.1").fill("4");
  await page.getByLabel("every, row 1.1").fill("2*r");
  await page.getByLabel("centre X, row 1.1.1").fill("50");
  await expect(page.getByRole("img", { name: "The sheet from above: 80 strokes" })).toBeVisible();
  const radius = page.getByLabel("radius, row 1.1.1");
  await radius.fill("radus");
  await expect(page.getByRole("group", { name: "row 1.1.1: ring" })).toContainText("there is no “radus”");
  await expect(page.getByRole("link", { name: "Get the file" })).toBeHidden();
  await radius.fill("r");
  await expect(page.getByRole("img", { name: "The sheet from above: 80 strokes" })).toBeVisible();
  await expect(page.getByRole("link", { name: "Get the file" })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Play" }).click();
  await expect(page.getByRole("button", { name: "Stop" })).toBeVisible();
  await page.getByRole("button", { name: "Stop" }).click();
  const id = page.url().split("/").pop();
  const kept = async () =>
    (await (await request.get(`/api/sheets/${id}`)).json()) as {
      name: string;
      items: { items: { count?: string }[] }[];
    };
  await expect.poll(async () => (await kept()).items[0].items[0].count).toBe("4");
  const waiting = page.waitForEvent("download");
  await page.getByRole("link", { name: "Get the file" }).click();
  const text = await textOf(await waiting);
  expect(text).toContain("; Cuchara: a sheet, Touching rings");
  // Four rings in twenty layers, at X 50, 80, 110 and 140.
  expect(new Set([...text.matchAll(/^G1 X(\d+)/gm)].map(([, x]) => Math.round(Number(x) / 30))).size).toBeGreaterThan(
    3,
  );
});

test("up first and then sideways is a stop; one press lays it layer by layer; a keep-out cuts; over HTTP as documented", async ({
  page,
  request,
}) => {
  const ring = { kind: "circle", centre: ["60", "60"], radiusMm: "8" };
  const up = { kind: "repeat", along: "z", count: "80", spacingMm: "0.2", items: [ring] };
  const sheet = {
    version: 1,
    name: "Up first",
    figures: [],
    bead: { widthMm: "0.45", heightMm: "0.2" },
    speedMmS: "40",
    items: [{ kind: "repeat", along: "x", count: "4", spacingMm: "20", items: [up] }],
    keepOut: [],
  };
  const made = await request.post("/api/sheets", { data: sheet });
  expect(made.status()).toBe(201);
  const { id } = (await made.json()) as { id: number };
  expect((await request.get(`/api/sheets/${id}/gcode?printerId=1&spoolId=1`)).status()).toBe(422);
  await page.goto(`/paths/${id}`);
  await expect(page.getByText(/would strike the piece/)).toBeVisible();
  await page.getByRole("button", { name: "Lay it layer by layer" }).click();
  await expect(page.getByText("The nozzle clears everything laid.")).toBeVisible();
  await expect
    .poll(async () => (await request.get(`/api/sheets/${id}/gcode?printerId=1&spoolId=1`)).status())
    .toBe(200);
  const check = async (change: object) =>
    (await (
      await request.post("/api/sheets/check", {
        data: { sheet: { ...sheet, items: [up], ...change }, printerId: 1, spoolId: 1 },
      })
    ).json()) as {
      figures: { filamentMm: number; strokes: number };
    };
  const [whole, cut] = [
    await check({}),
    await check({ keepOut: [{ shape: "circle", centre: [68, 60], radiusMm: 4 }] }),
  ];
  expect(whole.figures.strokes).toBe(80);
  expect(cut.figures.filamentMm).toBeLessThan(whole.figures.filamentMm * 0.9);
  const wrong = await request.post("/api/sheets/check", {
    data: { sheet: { ...sheet, speedMmS: "fast" }, printerId: 1, spoolId: 1 },
  });
  expect(wrong.status()).toBe(400);
  expect(((await wrong.json()) as { error: { field: string } }).error.field).toBe("sheet.speedMmS");
});
