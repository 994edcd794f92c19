/** A piece that a simulated printer made: read for somebody, photographed, asked once more, kept. */
import { APIRequestContext, expect, Page } from "@playwright/test";
import sharp from "sharp";
import { expectAccessible, makeTrial, openTrial, test } from "./helpers";

const step = (page: Page, name: string) => page.getByRole("tab", { name, exact: true }).click();

/** Prints a trial on its simulated printer; the id of the piece. */
async function printed(request: APIRequestContext, trialId: number, printerId: number): Promise<number> {
  const sent = await request.post("/api/link/job", { data: { printerId, trialId } });
  expect(sent.ok()).toBe(true);
  let id = 0;
  await expect(async () => {
    const runs = (await (await request.get(`/api/trials/${trialId}/runs`)).json()) as { id: number }[];
    expect(runs).toHaveLength(1);
    id = runs[0].id;
  }).toPass({ timeout: 90_000 });
  return id;
}

const link = async (request: APIRequestContext, printerId: number) => {
  const data = { printerId, transport: { kind: "simulated", rate: 500 } };
  expect((await request.post("/api/link/connect", { data })).ok()).toBe(true);
};

/** A printer like one of the shelf that nobody else uses, and nobody has linked. */
async function ownPrinter(request: APIRequestContext, likeId: number): Promise<number> {
  const like = (await (await request.get(`/api/printers/${likeId}`)).json()) as Record<string, unknown>;
  const { id: _, version: _v, createdAt: _c, updatedAt: _u, ...fields } = like;
  const made = await request.post("/api/printers", {
    data: { ...fields, name: `One of its own ${Date.now() % 1_000_000}` },
  });
  expect(made.status()).toBe(201);
  return ((await made.json()) as { id: number }).id;
}

/** Two more look at the piece: one eye alone is off by more than a step now and then. */
async function readByOthers(request: APIRequestContext, runId: number) {
  for (const reader of ["phone 1", "phone 2"]) {
    expect((await request.post(`/api/runs/${runId}/piece/read/${reader}`)).ok()).toBe(true);
  }
}

/** The temperature at which the spool comes out best, as many looks at the simulated printer say together. */
async function hiddenC(request: APIRequestContext, printerId: number, spoolId: number): Promise<number> {
  let sum = 0;
  for (let i = 0; i < 30; i++) {
    const look = await request.get(`/api/link/ruler?printerId=${printerId}&spoolId=${spoolId}`);
    sum += ((await look.json()) as { bestNozzleC: number }).bestNozzleC;
  }
  return sum / 30;
}

test("print, read it for me, once more, keep: the kept value lies within 4 °C of what is hidden", async ({
  page,
  request,
}) => {
  test.setTimeout(240_000);
  const pair = { printerId: await ownPrinter(request, 2), spoolId: 1 };
  const trialId = await makeTrial(request, { kind: "temperature", ...pair });
  await link(request, pair.printerId);
  const runId = await printed(request, trialId, pair.printerId);
  await readByOthers(request, runId);
  // The measured log of the job stands at the trial, too.
  await openTrial(page, trialId);
  await step(page, "Run");
  await page.getByRole("button", { name: "Its log" }).click();
  await expect(
    page
      .getByRole("group", { name: "Log of the printed piece" })
      .or(page.getByLabel("Log of the printed piece"))
      .first(),
  ).toBeVisible();
  await expectAccessible(page);
  const piece = (await (await request.get(`/api/runs/${runId}/piece`)).json()) as { bands: { marks: object }[] };
  expect(piece.bands).toHaveLength(7);
  expect(Object.keys(piece.bands[0].marks).sort()).toEqual(["bond", "bridge", "overhang", "strings", "surface"]);

  await page.getByRole("button", { name: "Read on" }).click();
  // The piece stands beside its bands, and the one that is asked about is shown larger; B turns it.
  await expect(page.getByRole("img", { name: /The piece, front, bottom to top/ })).toBeVisible();
  await expect(page.getByRole("region", { name: "The band, larger" })).toBeVisible();
  await page.keyboard.press("b");
  await expect(page.getByRole("img", { name: /The piece, back, bottom to top/ })).toBeVisible();
  await page.getByLabel("Hold another band beside it").selectOption({ index: 1 });
  await expect(page.getByRole("region", { name: "The band, larger" }).getByRole("img")).toHaveCount(2);
  await page.getByRole("button", { name: "Read it for me" }).click();
  const verdict = page.getByRole("region", { name: "Verdict" });
  await expect(verdict.getByRole("heading")).toHaveText(/°C$/);
  await expectAccessible(page);
  await verdict.getByRole("button", { name: /Ask once more/ }).click();
  await expect(page.getByLabel("Name of the trial")).toHaveValue(/ Round 2$/);
  const nextId = Number(/\/trials\/(\d+)/.exec(page.url())![1]);
  await readByOthers(request, await printed(request, nextId, pair.printerId));
  await step(page, "Read");
  await page.getByRole("button", { name: "Read it for me" }).click();
  await expect(verdict.getByRole("heading")).toHaveText(/°C$/);
  const rounds = page.getByRole("region", { name: "Rounds of this question" });
  await expect(rounds.getByRole("listitem")).toHaveCount(2);
  await verdict.getByRole("button", { name: /^Keep/ }).click();
  const keep = page.getByRole("region", { name: "Keep it" });
  await keep.getByLabel("Note").fill("held to the light");
  const said = Number(/[\d.]+/.exec((await keep.getByRole("button", { name: /^Keep/ }).textContent())!)![0]);
  await keep.getByRole("button", { name: /^Keep/ }).click();
  await expect(page.getByRole("region", { name: "Kept so far" })).toContainText("held to the light");
  expect(Math.abs(said - (await hiddenC(request, pair.printerId, pair.spoolId)))).toBeLessThanOrEqual(4);
  await request.post("/api/link/disconnect", { data: { printerId: pair.printerId } });
  await request.put("/api/bench", { data: pair });
  await page.goto("/bench");
  const row = page.getByRole("listitem").filter({ hasText: "Nozzle temperature" }).first();
  await expect(row).toContainText(`Kept: ${said} °C`);
  await request.put("/api/bench", { data: { printerId: 1, spoolId: 1 } });
});

test("a photo is stored without its place, laid on the log by two rings, removed and put back; what is none is refused", async ({
  page,
  request,
}) => {
  const trialId = await makeTrial(request, {
    kind: "temperature",
    printerId: await ownPrinter(request, 1),
    spoolId: 1,
  });
  const run = (await (await request.post(`/api/trials/${trialId}/runs`)).json()) as { id: number };
  const camera = sharp({ create: { width: 3000, height: 2000, channels: 3, background: "#b98a2f" } });
  const photo = await camera
    .withExif({ IFD0: { Make: "Madeup" }, IFD3: { GPSLatitudeRef: "N", GPSLatitude: "51/1 30/1 0/1" } })
    .jpeg()
    .toBuffer();
  const post = (body: Buffer, side = "front") =>
    request.post(`/api/runs/${run.id}/photos?side=${side}`, { data: body, headers: { "Content-Type": "image/jpeg" } });
  const added = await post(photo);
  expect(added.status()).toBe(201);
  const { id, widthPx, heightPx } = (await added.json()) as { id: number; widthPx: number; heightPx: number };
  expect([widthPx, heightPx]).toEqual([2000, 1333]);
  const stored = await (await request.get(`/api/runs/${run.id}/photos/${id}`)).body();
  expect((await sharp(stored).metadata()).exif).toBeUndefined();
  expect(stored.includes("GPS") || stored.includes("Madeup")).toBe(false);
  for (const other of [await camera.png().toBuffer(), await camera.webp().toBuffer()])
    expect((await post(other, "back")).status()).toBe(201);
  expect((await post(photo.subarray(0, 900))).status()).toBe(422);
  expect((await post(Buffer.from("; a program\nG28\n"))).status()).toBe(422);
  expect((await post(await camera.gif().toBuffer())).status()).toBe(422);
  expect((await post(Buffer.alloc(26_000_000))).status()).toBe(413);
  expect((await post(photo, "inside")).status()).toBe(400);
  const flat = await request.put(`/api/runs/${run.id}/photos/${id}`, { data: { bottom: [5, 5], top: [5, 6] } });
  expect(flat.status()).toBe(400);

  await openTrial(page, trialId);
  await step(page, "Read");
  await expect(page.getByRole("img", { name: /Photo 1, front, bottom to top/ })).toBeVisible();
  const ring = page.getByRole("button", { name: /Top edge of the piece/ });
  const topPx = () => ring.evaluate((element) => parseFloat(element.style.top));
  const before = await topPx();
  await ring.focus();
  const put = page.waitForResponse(
    (answer) => answer.request().method() === "PUT" && answer.url().includes("/photos/"),
  );
  for (let i = 0; i < 5; i++) await page.keyboard.press("Shift+ArrowDown");
  expect((await put).ok()).toBe(true);
  expect(await topPx()).toBeGreaterThan(before + 10);
  await expectAccessible(page);
  await page.getByRole("button", { name: "Remove this photo" }).click();
  await expect(page.getByLabel("What stands beside the bands").locator("option")).toHaveCount(3);
  await page.getByRole("button", { name: "Undo" }).last().click();
  await expect(page.getByLabel("What stands beside the bands").locator("option")).toHaveCount(4);
  // A piece that is really there has no state that a program knows.
  expect((await request.get(`/api/runs/${run.id}/piece`)).status()).toBe(404);
});

test("a matrix is read in cells: up and down a speed, left and right a length, painted by dragging; and goes on as a tower", async ({
  page,
  request,
}) => {
  const trialId = await makeTrial(request, {
    kind: "retraction-matrix",
    printerId: await ownPrinter(request, 1),
    spoolId: 1,
  });
  const run = (await (await request.post(`/api/trials/${trialId}/runs`)).json()) as {
    id: number;
    bands: { band: number; value: number; along: number }[];
  };
  // Good from 3 mm on at 40 mm/s, from one length more on elsewhere.
  const marks = run.bands.map(({ band, value, along }) => ({
    band,
    criterion: "strings",
    mark: Math.max(0, Math.min(4, Math.round(3 + (value - 3 - Math.abs(along - 40) / 20)))),
  }));
  await openTrial(page, trialId);
  await step(page, "Read");
  const cells = page.getByRole("table").getByRole("button");
  await expect(cells).toHaveCount(run.bands.length);
  await page.keyboard.press("ArrowUp");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("2");
  await expect(page.getByRole("button", { name: "1 mm at 20 mm/s: 2, threads" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  const from = (await page.getByRole("button", { name: /^1 mm at 20 mm\/s/ }).boundingBox())!;
  const to = (await page.getByRole("button", { name: /^3 mm at 20 mm\/s/ }).boundingBox())!;
  await page.mouse.move(from.x + 10, from.y + 10);
  await page.mouse.down();
  await page.mouse.move(to.x + 10, to.y + 10, { steps: 12 });
  await page.mouse.up();
  await expect(page.getByRole("button", { name: "3 mm at 20 mm/s: 2, threads" })).toBeVisible();
  await expectAccessible(page);
  await request.put(`/api/runs/${run.id}/readings/bench`, { data: { marks } });
  const verdict = (await (await request.get(`/api/runs/${run.id}/verdict`)).json()) as {
    value: number;
    along: { setting: string; value: number };
  };
  expect(verdict.along.setting).toBe("retractionSpeed");
  expect(Math.abs(verdict.along.value - 40)).toBeLessThanOrEqual(10);
  expect(Math.abs(verdict.value - 3)).toBeLessThanOrEqual(0.6);
  const next = await request.post(`/api/trials/${trialId}/next`, { data: { runId: run.id, kind: "retraction" } });
  expect(next.status()).toBe(201);
  expect(await next.json()).toMatchObject({
    kind: "retraction",
    from: trialId,
    round: 2,
    fixed: { retractionSpeed: verdict.along.value },
  });
});

test("lengths are pasted as a column, and a slip of the decimal point is asked about", async ({ page, request }) => {
  const trialId = await makeTrial(request, { kind: "flow", printerId: await ownPrinter(request, 1), spoolId: 1 });
  const run = (await (await request.post(`/api/trials/${trialId}/runs`)).json()) as { id: number };
  await openTrial(page, trialId);
  await step(page, "Read");
  const first = page.getByLabel("Thickness of the wall, reading 1");
  await first.fill("4.5");
  await page.getByRole("button", { name: "Yes, 0.45 mm" }).click();
  await expect(first).toHaveValue("0.45");
  await first.evaluate((field) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData("text", "0,40\n0,41\n0,42\n0,43\n0.44\n0.45\n0.46\n0.47");
    field.dispatchEvent(new ClipboardEvent("paste", { clipboardData, bubbles: true, cancelable: true }));
  });
  // The length typed before is stored by itself as well: only the last answer counts.
  const ofBand = async (band: number) => {
    const { readings } = (await (await request.get(`/api/runs/${run.id}`)).json()) as {
      readings: { measures: { band: number; valuesMm: number[] }[] }[];
    };
    return readings[0]?.measures.find((one) => one.band === band)?.valuesMm;
  };
  await expect.poll(() => ofBand(1)).toEqual([0.4, 0.41, 0.42, 0.43]);
  await expect.poll(() => ofBand(2)).toEqual([0.44, 0.45, 0.46, 0.47]);
});

test("in the dark and on a phone every step is accessible and nothing runs out of it", async ({ page, request }) => {
  const trialId = await makeTrial(request, { kind: "temperature", printerId: 1, spoolId: 1 });
  await request.post(`/api/trials/${trialId}/runs`);
  await page.emulateMedia({ colorScheme: "dark" });
  for (const width of [1280, 390]) {
    await page.setViewportSize({ width, height: 800 });
    await openTrial(page, trialId);
    for (const name of ["Run", "Read", "Keep"]) {
      await step(page, name);
      await page.waitForTimeout(300);
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
      await expectAccessible(page);
    }
  }
  await page.emulateMedia({ colorScheme: "light" });
  await page.setViewportSize({ width: 1280, height: 800 });
});
