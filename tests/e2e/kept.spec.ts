/** What is kept: stale and why, taken over, put back, written out, read in, on a label; and the bench as a road. */
import { APIRequestContext, expect } from "@playwright/test";
import { PDFDocument } from "pdf-lib";
import { expectAccessible, test, textOf } from "./helpers";

interface Step {
  what: string;
  key: string;
  state: string;
  why: string[];
  isNext: boolean;
}

/** A spool of the same material as Saffron's, new on the shelf. */
async function newSpool(request: APIRequestContext, name: string, material = "PLA"): Promise<number> {
  const made = await request.post("/api/spools", { data: { name, material, maker: "Larkfield" } });
  expect(made.status()).toBe(201);
  return ((await made.json()) as { id: number }).id;
}

const keep = async (request: APIRequestContext, data: object) => {
  const kept = await request.post("/api/kept", { data });
  expect(kept.status()).toBe(201);
  return (await kept.json()) as { id: number };
};

const roadOf = async (request: APIRequestContext, printerId: number, spoolId: number) =>
  (await (await request.get(`/api/bench/road?printerId=${printerId}&spoolId=${spoolId}`)).json()) as Step[];

test("values are taken over to another spool of the same material as not tried, and go stale when what they rest on changes", async ({
  page,
  request,
}) => {
  const [from, to] = [await newSpool(request, "PLA Moss"), await newSpool(request, "PLA Fern")];
  await keep(request, {
    printerId: 1,
    spoolId: from,
    setting: "nozzleTemperature",
    value: 211,
    fromValue: 208,
    toValue: 214,
  });
  await keep(request, { printerId: 1, spoolId: from, setting: "retractionLength", value: 3.2 });
  const road = await roadOf(request, 1, from);
  expect(road.filter(({ isNext }) => isNext)).toHaveLength(1);
  expect(road.find(({ key }) => key === "retraction")).toMatchObject({ state: "kept", why: [] });
  await keep(request, { printerId: 1, spoolId: from, setting: "nozzleTemperature", value: 216 });
  expect((await roadOf(request, 1, from)).find(({ key }) => key === "retraction")).toMatchObject({
    state: "stale",
    why: ["Nozzle temperature was kept later: 216 °C instead of 211 °C."],
  });

  await request.put("/api/bench", { data: { printerId: 1, spoolId: to } });
  await page.goto("/bench");
  const row = page.getByRole("listitem").filter({ hasText: "Nozzle temperature" }).first();
  await expect(row).toContainText("never asked");
  const carried = await request.post("/api/kept/carry", {
    data: { from: { printerId: 1, spoolId: from }, printerId: 1, spoolId: to },
  });
  expect(carried.status()).toBe(201);
  await page.reload();
  await expect(row).toContainText("Taken over: 216 °C");
  await expect(row).toContainText("not tried here");
  await expectAccessible(page);
  const trial = (await (
    await request.post("/api/trials", { data: { kind: "temperature", printerId: 1, spoolId: to } })
  ).json()) as {
    plan: { bands: { settings: { nozzleTemperature: number } }[] };
  };
  const tried = trial.plan.bands.map(({ settings }) => settings.nozzleTemperature);
  expect(Math.max(...tried) - Math.min(...tried)).toBeLessThanOrEqual(20);
  expect(tried.some((value) => Math.abs(value - 216) <= 2)).toBe(true);

  const foreign = await newSpool(request, "PETG Reed", "PETG");
  const refused = await request.post("/api/kept/carry", {
    data: { from: { printerId: 1, spoolId: from }, printerId: 1, spoolId: foreign },
  });
  expect(refused.status()).toBe(400);
  expect(((await refused.json()) as { error: { message: string } }).error.message).toContain("say nothing about PETG");

  // Everything asked again, and taken back.
  await page.getByRole("button", { name: "Ask everything again" }).click();
  await expect(row).toContainText("stale");
  await page.getByRole("button", { name: "Undo" }).last().click();
  await expect(row).not.toContainText("stale");
  await request.put("/api/bench", { data: { printerId: 1, spoolId: 1 } });
});

test("the history is kept with what each value was found with, and an earlier one put back counts again", async ({
  request,
}) => {
  const spoolId = await newSpool(request, "PLA Sorrel");
  const first = await keep(request, { printerId: 1, spoolId, setting: "fan", value: 40, note: "first try" });
  await keep(request, { printerId: 1, spoolId, setting: "fan", value: 60 });
  const history = async () =>
    (await (await request.get(`/api/kept/history?printerId=1&spoolId=${spoolId}&setting=fan`)).json()) as {
      value: number;
      note: string;
      nozzleMm: number;
    }[];
  expect((await history()).map(({ value }) => value)).toEqual([60, 40]);
  expect((await history())[1]).toMatchObject({ note: "first try", nozzleMm: 0.4 });
  expect((await request.post(`/api/kept/${first.id}/again`)).status()).toBe(201);
  expect((await history()).map(({ value }) => value)).toEqual([40, 60, 40]);
  const counts = (await (await request.get(`/api/kept?printerId=1&spoolId=${spoolId}`)).json()) as {
    value: number;
    note: string;
  }[];
  expect(counts).toMatchObject([{ value: 40, note: "first try" }]);
});

test("a bench is written out as one file and read in elsewhere: nothing twice, nothing of it if it is broken", async ({
  request,
}) => {
  const spoolId = await newSpool(request, "PLA Tansy");
  await keep(request, { printerId: 1, spoolId, setting: "fan", value: 55, note: "from the bench" });
  const bench = (await (await request.get("/api/kept/export")).json()) as {
    format: string;
    spools: { name: string }[];
    kept: { spool: number; setting: string; value: number; keptAt: string }[];
  };
  expect(bench.format).toBe("cuchara-bench");
  const again = await request.post("/api/kept/import", { data: bench });
  expect(again.status()).toBe(201);
  expect(await again.json()).toEqual({ printers: 0, spools: 0, kept: 0, trials: 0 });
  // Another house's spool, and an older value of the same fan: the newer counts.
  const at = bench.spools.findIndex(({ name }) => name === "PLA Tansy");
  const mine = bench.kept.find(({ spool, setting }) => spool === at && setting === "fan")!;
  const other = {
    ...bench,
    spools: [...bench.spools, { ...bench.spools[at], name: "PLA Yarrow" }],
    kept: [
      { ...mine, value: 20, keptAt: "2020-01-01T00:00:00Z" },
      { ...mine, spool: bench.spools.length },
    ],
    trials: [],
  };
  expect(await (await request.post("/api/kept/import", { data: other })).json()).toMatchObject({ spools: 1, kept: 2 });
  const counts = (await (await request.get(`/api/kept?printerId=1&spoolId=${spoolId}`)).json()) as { value: number }[];
  expect(counts).toMatchObject([{ value: 55 }]);
  const broken = { ...other, kept: [{ ...mine, value: 400 }] };
  const refused = await request.post("/api/kept/import", { data: broken });
  expect(refused.status()).toBe(400);
  const foreign = await request.post("/api/kept/import", { data: { format: "else" } });
  expect(((await foreign.json()) as { error: { message: string } }).error.message).toContain("This is no bench");
});

test("the label and the sheet hold what is kept; a code on it leads to the bench of its pair", async ({
  page,
  request,
}) => {
  const spoolId = await newSpool(request, "PLA Clover");
  await keep(request, {
    printerId: 1,
    spoolId,
    setting: "nozzleTemperature",
    value: 209,
    fromValue: 206,
    toValue: 212,
  });
  await keep(request, { printerId: 1, spoolId, setting: "pressureAdvance", value: 0.4 });
  const query = `printerId=1&spoolId=${spoolId}`;
  const pdf = await request.get(`/api/label?${query}&size=62x29&as=pdf`);
  expect(pdf.headers()["content-type"]).toBe("application/pdf");
  // The page's own size, in points of 1/72 inch (ISO 32000-1).
  const { width, height } = (await PDFDocument.load(await pdf.body())).getPage(0).getMediaBox();
  expect([width, height].map((points) => Math.round((points / 72) * 25.4))).toEqual([62, 29]);
  expect((await request.get(`/api/label?${query}&size=9x9`)).status()).toBe(400);
  expect(await (await request.get(`/api/kept/export?${query}&as=csv`)).text()).toContain(
    "Nozzle temperature,209,°C,206,212,",
  );
  expect(await (await request.get(`/api/kept/export?${query}&as=lines`)).text()).toContain("M900 K0.4");

  await page.goto(`/shelf/label?${query}`);
  await expect(page.getByLabel("Values as text")).toContainText("Nozzle temperature: 209 °C (good from 206 to 212)");
  const label = page.getByRole("img", { name: "Label of 40 × 30 mm" });
  await expect(label).toBeVisible();
  expect(await label.evaluate((image: HTMLImageElement) => image.complete && image.naturalWidth > 0)).toBe(true);
  await page.getByLabel("Size of the label").selectOption({ label: "70 × 37 mm" });
  await expect(page.getByRole("img", { name: "Label of 70 × 37 mm" })).toBeVisible();
  await expectAccessible(page);
  // In print it has its exact size.
  await page.emulateMedia({ media: "print" });
  const printed = (await page.getByRole("img", { name: "Label of 70 × 37 mm" }).boundingBox())!;
  expect((printed.width / 96) * 25.4).toBeCloseTo(70, 0);
  await page.emulateMedia({ media: "screen" });
  const saved = page.waitForEvent("download");
  await page.getByRole("button", { name: "Save as picture (PNG)" }).click();
  expect((await saved).suggestedFilename()).toMatch(/label\.png$/);
  const sheet = page.waitForEvent("download");
  await page.getByRole("link", { name: "CSV" }).click();
  expect(await textOf(await sheet)).toContain("Pressure advance,0.4");

  await page.goto(`/bench?${query}`);
  await expect(page.getByRole("heading", { level: 1 })).toContainText(/PLA Clover|Clover/);
  await expect(page).toHaveURL(/\/bench$/);
  await request.put("/api/bench", { data: { printerId: 1, spoolId: 1 } });
});

test("what other spools of the maker wanted stands on the bench, is asked first, and the whole range by one press", async ({
  page,
  request,
}) => {
  const set = (expectsAlike: boolean) => request.put("/api/program", { data: { expectsAlike } });
  const spool = ((await (await request.get("/api/spools")).json()) as { id: number; [key: string]: unknown }[]).find(
    ({ id }) => id === 1,
  )!;
  const { id: _, createdAt: _c, updatedAt: _u, version: _v, ...fields } = spool;
  const add = async (name: string) =>
    (
      (await (await request.post("/api/spools", { data: { ...fields, maker: "Quillmark", name } })).json()) as {
        id: number;
      }
    ).id;
  for (const [i, value] of [207, 208, 208, 209, 207].entries()) {
    const spoolId = await add(`Elder ${i}`);
    await keep(request, { printerId: 1, spoolId, setting: "nozzleTemperature", value });
  }
  const spoolId = await add("Younger");
  await request.put("/api/bench", { data: { printerId: 1, spoolId } });
  await set(true);
  await page.goto("/bench");
  const row = page.getByRole("listitem").filter({ hasText: "Nozzle temperature" }).first();
  await expect(row).toContainText(/Expected here: \d+ to \d+ °C/);
  await row.getByRole("button", { name: "Ask the whole range" }).click();
  await expect(page).toHaveURL(/\/trials\/\d+/);
  const valuesOf = async (id: string) =>
    (
      (await (await request.get(`/api/trials/${id}`)).json()) as {
        plan: { bands: { settings: { nozzleTemperature: number } }[] };
      }
    ).plan.bands.map(({ settings }) => settings.nozzleTemperature);
  const whole = await valuesOf(/\/trials\/(\d+)/.exec(page.url())![1]);
  expect(Math.max(...whole) - Math.min(...whole)).toBe(30);
  const made = await request.post("/api/trials", { data: { kind: "temperature", printerId: 1, spoolId } });
  const narrow = await valuesOf(String(((await made.json()) as { id: number }).id));
  expect(Math.max(...narrow) - Math.min(...narrow)).toBeLessThan(30);
  await set(false);

  // All of them on one scale, in rows, as a table, and as CSV.
  await page.goto("/bench");
  await page.getByRole("link", { name: "What this bench knows" }).click();
  await expect(page).toHaveURL(/\/bench\/known$/);
  const card = page.getByRole("region", { name: "Nozzle temperature", exact: true });
  await expect(card.getByRole("img", { name: /^Quillmark Elder 3 on Ladle 220: 209 °C/ })).toBeVisible();
  await page.getByText("maker", { exact: true }).click();
  await expect(card.getByRole("group", { name: "Nozzle temperature by maker" })).toContainText(/Quillmark \d/);
  await card.getByText("As a table").click();
  await expect(card.getByRole("row", { name: /207 .*Quillmark Elder 0.*Ladle 220/ })).toBeVisible();
  await expectAccessible(page);
  const csv = await request.get("/api/bench/known?as=csv");
  expect(csv.headers()["content-type"]).toContain("text/csv");
  expect(await csv.text()).toContain("Nozzle temperature,209,°C,,,Ladle 220,0.4,Quillmark Elder 3,PLA,Quillmark,");
  expect((await request.get("/api/bench/known?as=pdf")).status()).toBe(400);
  await request.put("/api/bench", { data: { printerId: 1, spoolId: 1 } });
});
