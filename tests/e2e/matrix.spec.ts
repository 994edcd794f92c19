/** Any two settings in one print: asked over HTTP, read in cells, asked once more or as a tower, kept together. */
import { APIRequestContext, expect } from "@playwright/test";
import { expectAccessible, openTrial, test } from "./helpers";

const flow = { setting: "flowFactor", values: [92, 96, 100, 104, 108] };
const nozzle = { setting: "nozzleTemperature", values: [220, 212, 204, 196] };
/** 40 times 40 pairs: more than anybody prints. */
const many = Array.from({ length: 40 }, (_, i) => 80 + i);
const ask = (request: APIRequestContext, body: object) =>
  request.post("/api/trials", { data: { kind: "matrix", printerId: 2, spoolId: 1, ...body } });

interface Cell {
  band: number;
  value: number;
  along: number;
}

test("what a matrix asks for is refused at its field", async ({ request }) => {
  const cases: [object, string][] = [
    [{ across: flow }, "up"],
    [{ up: nozzle }, "across"],
    [{ across: flow, up: flow }, "up.setting"],
    [{ across: nozzle, up: flow }, "across.setting"],
    [{ across: { ...flow, values: [95, 900] }, up: nozzle }, "across.values.1"],
    [{ across: flow, up: { ...nozzle, values: [210, -5] } }, "up.values.1"],
    [{ across: { setting: "flavour", values: [1] }, up: nozzle }, "across.setting"],
    [{ kind: "temperature", across: flow, up: nozzle }, "across"],
    [{ across: { ...flow, values: many }, up: { ...nozzle, values: many } }, "plan.sideBySide.values"],
  ];
  for (const [body, field] of cases) {
    const refused = await ask(request, body);
    expect(refused.status(), JSON.stringify(body)).toBe(400);
    expect(((await refused.json()) as { error: object }).error).toMatchObject({ field });
  }
});

test("two settings are printed in one piece, read in cells, narrowed both ways, and kept together", async ({
  page,
  request,
}) => {
  const made = await ask(request, { across: flow, up: nozzle });
  expect(made.status()).toBe(201);
  const trial = (await made.json()) as { id: number; plan: { sideBySide: object; bands: object[] } };
  expect(trial.plan.sideBySide).toEqual(flow);
  expect(trial.plan.bands).toHaveLength(4);
  await openTrial(page, trial.id);
  await expect(page.getByText("The number before each block is its own value.", { exact: false })).toBeVisible();
  const run = (await (await request.post(`/api/trials/${trial.id}/runs`, { data: {} })).json()) as {
    id: number;
    bands: Cell[];
    criteria: { key: string }[];
  };
  // Best at 100 % and 206 °C.
  const marks = run.bands.flatMap(({ band, value, along }) =>
    run.criteria.map(({ key: criterion }) => ({
      band,
      criterion,
      mark: Math.max(0, Math.round(4 - ((value - 100) / 5) ** 2 - ((along - 206) / 9) ** 2)),
    })),
  );
  expect((await request.put(`/api/runs/${run.id}/readings/bench`, { data: { marks } })).ok()).toBe(true);
  await page.reload();
  await page.getByRole("tab", { name: "Read", exact: true }).click();
  await expect(page.getByRole("table").getByRole("button")).toHaveCount(20);
  await expect(page.getByRole("heading", { name: "100 % at 204 °C" })).toBeVisible();
  await expect(page.getByRole("button", { name: "Go on as a tower: flow factor" })).toBeVisible();
  await expectAccessible(page);
  const verdict = (await (await request.get(`/api/runs/${run.id}/verdict`)).json()) as {
    along: { setting: string; fromValue: number; toValue: number };
    bands: { good: number }[];
  };
  expect(verdict.along).toMatchObject({ setting: "nozzleTemperature" });
  expect(verdict.along.fromValue).toBeLessThanOrEqual(206);
  expect(verdict.along.toValue).toBeGreaterThanOrEqual(206);
  expect(verdict.bands.every(({ good }) => good >= 0 && good <= 1)).toBe(true);

  await page.getByRole("button", { name: "Ask once more" }).click();
  await expect(page.getByLabel("Name of the trial")).toHaveValue(/Round 2$/);
  const next = (await (await request.get(`/api/trials/${page.url().split("/").at(-1)}`)).json()) as {
    plan: { sideBySide: { values: number[] }; bands: { settings: { nozzleTemperature: number } }[] };
  };
  const span = (values: number[]) => Math.max(...values) - Math.min(...values);
  expect(span(next.plan.sideBySide.values)).toBeLessThan(span(flow.values));
  expect(span(next.plan.bands.map(({ settings }) => settings.nozzleTemperature))).toBeLessThan(span(nozzle.values));

  const tower = await request.post(`/api/trials/${trial.id}/next`, {
    data: { runId: run.id, kind: "temperature", setting: "nozzleTemperature" },
  });
  expect(tower.status()).toBe(201);
  expect(await tower.json()).toMatchObject({
    kind: "temperature",
    name: "How hot does Saffron want to be? Round 2",
    fixed: { flowFactor: 100 },
  });
  const other = await request.post(`/api/trials/${trial.id}/next`, {
    data: { runId: run.id, kind: "temperature", setting: "fan" },
  });
  expect(((await other.json()) as { error: object }).error).toMatchObject({ field: "setting" });
  const foreseen = await request.get(`/api/trials/${trial.id}/next?runId=${run.id}`);
  expect(await foreseen.json()).toMatchObject({ narrowsTo: null });
  expect((await request.get(`/api/trials/${trial.id}/next`)).status()).toBe(400);

  await openTrial(page, trial.id);
  await page.getByRole("tab", { name: "Keep", exact: true }).click();
  await expect(page.getByText("Found together with", { exact: false })).toBeVisible();
  await page.getByRole("button", { name: "Keep 100 % at 204 °C" }).click();
  const kept = async () => (await (await request.get("/api/kept?printerId=2&spoolId=1")).json()) as object[];
  await expect
    .poll(kept)
    .toEqual(
      expect.arrayContaining([
        expect.objectContaining({ setting: "flowFactor", value: 100, runId: run.id }),
        expect.objectContaining({ setting: "nozzleTemperature", value: 204, runId: run.id }),
      ]),
    );
});
