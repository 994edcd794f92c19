/** From a printed piece to a kept value: run, read, keep, and once more. */
import { APIRequestContext, expect, Page } from "@playwright/test";
import { expectAccessible, makeTrial, openTrial, test } from "./helpers";

/** What this made-up spool wants, °C: strings above it, weak layers below. */
const TRUTH_C = 207;

const step = (page: Page, name: string) => page.getByRole("tab", { name, exact: true }).click();

/** Answers every question of every band by keys alone, from the lowest band up. */
async function markByKeys(page: Page, values: number[]) {
  const questions = page.getByRole("region", { name: "Questions about the band" });
  for (const [i, value] of values.entries()) {
    await expect(questions.getByRole("heading")).toHaveText(`Band ${i + 1}, ${value} °C`);
    await questions.locator("[aria-expanded]").first().focus();
    for (const criterion of ["strings", "bridge", "overhang", "surface", "bond"]) {
      const off = criterion === "bond" ? TRUTH_C - value : value - TRUTH_C;
      const mark = Math.max(0, Math.min(4, Math.round(4 - Math.max(0, off) / 4)));
      const stored = page.waitForResponse((answer) => answer.url().includes("/readings/") && answer.ok());
      await page.keyboard.press(String(mark + 1));
      await stored;
      await page.keyboard.press("Tab");
    }
    await page.keyboard.press("ArrowUp");
  }
}

async function valuesOf(request: APIRequestContext, trialId: number): Promise<number[]> {
  const { plan } = (await (await request.get(`/api/trials/${trialId}`)).json()) as {
    plan: { bands: { settings: { nozzleTemperature: number } }[] };
  };
  return plan.bands.map(({ settings }) => settings.nozzleTemperature);
}

test("run, read, ask once more, read, keep: the bench shows the value", async ({ page, request }) => {
  test.setTimeout(180_000);
  const trialId = await makeTrial(request, { kind: "temperature", printerId: 3, spoolId: 1 });
  // A step that has nothing to do yet says what comes before it.
  await openTrial(page, trialId);
  await step(page, "Read");
  await expect(page.getByText(/This trial hasn.t been printed yet/)).toBeVisible();

  // A job over the link makes a run by itself.
  const linked = await request.post("/api/link/connect", {
    data: { printerId: 3, transport: { kind: "simulated", rate: 500 } },
  });
  expect(linked.ok()).toBe(true);
  const sent = await request.post("/api/link/job", { data: { printerId: 3, trialId } });
  expect(sent.ok()).toBe(true);
  await expect(async () => {
    const runs = (await (await request.get(`/api/trials/${trialId}/runs`)).json()) as { way: string; told: object[] }[];
    expect(runs).toHaveLength(1);
    expect(runs[0].way).toBe("link");
  }).toPass({ timeout: 90_000 });
  await request.post("/api/link/disconnect", { data: { printerId: 3 } });

  await step(page, "Run");
  await expect(page.getByText(/Sent over the link. Whole, 7 to read. .* as measured/)).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Read it" }).click();
  await markByKeys(page, await valuesOf(request, trialId));
  const verdict = page.getByRole("region", { name: "Verdict" });
  await expect(verdict.getByRole("heading")).toHaveText(/^20[4-9]|21[01]/);
  await expectAccessible(page);

  // What is read stays over a reload.
  await page.reload();
  await step(page, "Read");
  await expect(verdict.getByRole("heading")).toHaveText(/°C$/);

  await verdict.getByRole("button", { name: /Ask once more, finer/ }).click();
  await expect(page.getByLabel("Name of the trial")).toHaveValue(/ Round 2$/);
  const nextId = Number(/\/trials\/(\d+)/.exec(page.url())![1]);
  expect(nextId).not.toBe(trialId);
  await step(page, "Run");
  await page.getByRole("button", { name: "I printed it" }).click();
  await page.getByRole("button", { name: "Read it" }).click();
  const finer = await valuesOf(request, nextId);
  expect(Math.abs(finer[0] - finer[1])).toBeLessThanOrEqual(3);
  await markByKeys(page, finer);
  const [{ id: runId }] = (await (await request.get(`/api/trials/${nextId}/runs`)).json()) as { id: number }[];
  const { value: said } = (await (await request.get(`/api/runs/${runId}/verdict`)).json()) as { value: number };
  expect(Math.abs(said - TRUTH_C)).toBeLessThanOrEqual(4);
  // A mark is painted before what follows from it.
  await expect(verdict.getByRole("heading")).toHaveText(`${said} °C`);
  await verdict.getByRole("button", { name: /^Keep/ }).click();
  await page.getByRole("region", { name: "Keep it" }).getByRole("button", { name: /^Keep/ }).click();
  await expect(page.getByRole("region", { name: "Kept so far" })).toContainText(`${said} °C good from`);
  await expectAccessible(page);
  await request.put("/api/bench", { data: { printerId: 3, spoolId: 1 } });
  await page.goto("/bench");
  await expect(page.getByRole("listitem").filter({ hasText: "Nozzle temperature" }).first()).toContainText(
    `Kept: ${said} °C`,
  );
  await request.put("/api/bench", { data: { printerId: 1, spoolId: 1 } });
});

test("a run keeps the plan it was printed with, and can be removed and put back", async ({ page, request }) => {
  const trialId = await makeTrial(request, { kind: "temperature", printerId: 1, spoolId: 1 });
  const run = (await (await request.post(`/api/trials/${trialId}/runs`)).json()) as { id: number };
  const { plan } = (await (await request.get(`/api/trials/${trialId}`)).json()) as { plan: { bands: object[] } };
  await request.put(`/api/trials/${trialId}`, { data: { plan: { ...plan, bands: plan.bands.slice(0, 3) } } });
  const after = (await (await request.get(`/api/runs/${run.id}`)).json()) as { bands: object[] };
  expect(after.bands).toHaveLength(7);
  // The bench says that a piece waits, and leads to its reading.
  await request.put("/api/bench", { data: { printerId: 1, spoolId: 1 } });
  await page.goto("/bench");
  await page.getByRole("link", { name: "Read it", exact: true }).first().click();
  await expect(page.getByRole("region", { name: "Questions about the band" })).toBeVisible();
  await openTrial(page, trialId);
  await step(page, "Run");
  await page.getByRole("button", { name: "Remove this piece" }).click();
  await expect(page.getByRole("button", { name: "Read it" })).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).last().click();
  await expect(page.getByRole("button", { name: "Read it" })).toBeVisible();
});

test("over HTTP: what is no mark, no band and no weight is refused beside its field; nothing to go on from is a 422", async ({
  request,
}) => {
  const trialId = await makeTrial(request, { kind: "fan", printerId: 1, spoolId: 1 });
  const run = (await (
    await request.post(`/api/trials/${trialId}/runs`, { data: { note: "from the card" } })
  ).json()) as {
    id: number;
    note: string;
    criteria: { key: string; question: string; answers: string[]; weight: number }[];
  };
  expect(run.note).toBe("from the card");
  for (const { question, answers, weight } of run.criteria) {
    expect(question).toMatch(/\?$/);
    expect(answers).toHaveLength(5);
    expect(weight).toBeGreaterThan(0);
  }
  const put = async (data: object) => {
    const answer = await request.put(`/api/runs/${run.id}/readings/bench`, { data });
    return { status: answer.status(), body: (await answer.json()) as { error?: { field?: string } } };
  };
  expect(await put({ marks: [{ band: 40, criterion: "bond", mark: 1 }] })).toMatchObject({
    status: 400,
    body: { error: { field: "marks.0.band" } },
  });
  expect(await put({ marks: [{ band: 1, criterion: "strings", mark: 1 }] })).toMatchObject({
    status: 400,
    body: { error: { field: "marks.0.criterion" } },
  });
  expect((await put({ marks: [{ band: 1, criterion: "bond", mark: 5 }] })).status).toBe(400);
  // Nothing is measured on a fan's piece, and what is no name is no reader.
  expect(await put({ measures: [{ band: 1, what: "wall", valuesMm: [0.4] }] })).toMatchObject({
    status: 400,
    body: { error: { field: "measures.0.what" } },
  });
  const nameless = await request.put(`/api/runs/${run.id}/readings/${"x".repeat(61)}`, { data: { marks: [] } });
  expect(nameless.status()).toBe(400);
  // Marks that are not named stay.
  await put({ marks: [{ band: 1, criterion: "bond", mark: 1 }] });
  const second = await put({ marks: [{ band: 2, criterion: "bond", mark: null }] });
  expect(second.body).toMatchObject({
    marks: [
      { band: 1, mark: 1 },
      { band: 2, mark: null },
    ],
  });
  const next = await request.post(`/api/trials/${trialId}/next`, { data: { runId: run.id } });
  expect(next.status()).toBe(422);
  expect(await (await request.get(`/api/runs/${run.id}/verdict`)).json()).toMatchObject({
    rule: "best",
    value: null,
    advice: "mark-more",
  });
  expect((await request.get(`/api/runs/${run.id}/verdict?weights={"taste":1}`)).status()).toBe(400);
});

test("on a phone one band fills the screen, and nothing runs out of it", async ({ page, request }) => {
  const trialId = await makeTrial(request, { kind: "retraction", printerId: 1, spoolId: 1 });
  await request.post(`/api/trials/${trialId}/runs`);
  await page.setViewportSize({ width: 390, height: 800 });
  await openTrial(page, trialId);
  await step(page, "Read");
  await page.getByRole("radio", { name: "none", exact: false }).first().click();
  await page.getByRole("button", { name: "The band above" }).click();
  await expect(page.getByRole("heading", { name: /^Band 2, [\d.]+ mm$/ })).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await expectAccessible(page);
  await page.setViewportSize({ width: 1280, height: 800 });
});

test("what was tried together is kept together, the range with the value that was read; trials are found by how far they came", async ({
  page,
  request,
}) => {
  const trialId = await makeTrial(request, { kind: "temperature", printerId: 2, spoolId: 2 });
  const run = (await (await request.post(`/api/trials/${trialId}/runs`)).json()) as { id: number };
  const pair = { printerId: 2, spoolId: 2, trialId, runId: run.id };
  const range = { fromValue: 198, toValue: 206 };
  const kept = await request.post("/api/kept", {
    data: { ...pair, setting: "nozzleTemperature", value: 202, ...range, settings: { fan: 60 } },
  });
  expect(kept.status()).toBe(201);
  expect(await kept.json()).toEqual(
    expect.arrayContaining([
      expect.objectContaining({ setting: "nozzleTemperature", value: 202, ...range, runId: run.id }),
      expect.objectContaining({ setting: "fan", value: 60, fromValue: null, toValue: null }),
    ]),
  );
  // A setting named without a value says nothing.
  const half = await request.post("/api/kept", { data: { ...pair, setting: "fan", settings: { bedTemperature: 60 } } });
  expect(await half.json()).toEqual([expect.objectContaining({ setting: "bedTemperature" })]);
  const brief = (await (await request.get("/api/trials?brief=1")).json()) as { id: number; state: string }[];
  expect(brief.find(({ id }) => id === trialId)).toMatchObject({ state: "kept" });
  // A list of a few needs no fields to choose from.
  for (let i = 0; i < 8; i++)
    await makeTrial(request, { kind: "fan", printerId: 2, spoolId: 2, name: `One of many ${i}` });
  await page.goto("/trials");
  await page.getByLabel("Any state").selectOption("kept");
  await expect(
    page
      .getByRole("list", { name: "Trials" })
      .getByText(/kept (202|60) /)
      .first(),
  ).toBeVisible();
  // What was printed is not removed in passing.
  await page.getByRole("button", { name: "Remove", exact: true }).first().click();
  await expect(page.getByRole("dialog")).toContainText("with what was printed and read of it");
  await page
    .getByRole("dialog")
    .getByRole("button", { name: /Cancel/ })
    .click();
});
