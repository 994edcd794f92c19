/** The demo's weeks of work: what the screens show of them agrees with the interface, and one press begins anew. */
import { expect, test } from "@playwright/test";
import { spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { good, OwnProgram, startProgram } from "../../scripts/own-program.cjs";
import { expectAccessible } from "./helpers";

interface Step {
  key: string;
  state: string;
  label: string;
  why: string[];
  found: string;
  isNext: boolean;
}

let data: string;
let program: OwnProgram;

test.beforeAll(async () => {
  test.setTimeout(180_000);
  data = mkdtempSync(join(tmpdir(), "cuchara-story-"));
  const env = { ...process.env, CUCHARA_DATA: data, CUCHARA_DEMO: "" };
  const made = spawnSync(join("node_modules", ".bin", "tsx"), ["scripts/make-demo.ts"], { env, encoding: "utf8" });
  expect(made.status, made.stderr).toBe(0);
  program = await startProgram(data);
});

test.afterAll(async () => {
  await program.kill();
  rmSync(data, { recursive: true, force: true });
});

const roadOf = async (spoolId: number) =>
  (await program.ask("GET", `/api/bench/road?printerId=1&spoolId=${spoolId}`)).body as Step[];
const stateOf = (road: Step[], key: string) => road.find((step) => step.key === key)!;

test("one spool is settled but for what was found with another nozzle; every kept value lies in its own range", async () => {
  const road = await roadOf(1);
  for (const key of [
    "temperature",
    "fan",
    "retraction-matrix",
    "flow",
    "acceleration",
    "cornering",
    "pressure-advance",
  ])
    expect([key, stateOf(road, key).state]).toEqual([key, "kept"]);
  expect(stateOf(road, "speed")).toMatchObject({
    state: "stale",
    why: expect.arrayContaining([expect.stringContaining("0.6 mm nozzle")]),
  });
  expect(stateOf(road, "extruder-steps").found).not.toBe("");
  const kept = (await program.ask("GET", "/api/kept")).body as {
    value: number;
    fromValue: number | null;
    toValue: number;
  }[];
  expect(kept.length).toBeGreaterThan(9);
  for (const { value, fromValue, toValue } of kept) {
    if (fromValue === null) continue;
    expect(value).toBeGreaterThanOrEqual(fromValue);
    expect(value).toBeLessThanOrEqual(toValue);
  }
});

test("the Bench opens on the spool in the middle: as much is settled as the road says, and yesterday's piece is next", async ({
  page,
}) => {
  const road = await roadOf(3);
  const settled = road.filter(({ state, found }) => state === "kept" && found !== "").length;
  await page.goto(`${program.address}/bench`);
  const strip = page.getByRole("navigation", { name: "How far this pair is" });
  await expect(strip).toContainText(`${settled} of `);
  await expect(page.getByText("Try reading the print for “Flow”")).toBeVisible();
  expect(stateOf(road, "flow").state).toBe("waiting");
  await expectAccessible(page);
  await page.locator("#flow").getByRole("link", { name: "Read it" }).click();
  await expect(page).toHaveURL(/step=read/);
  await expect(page.getByRole("img", { name: /photo|piece/i }).first()).toBeVisible();
});

test("where one is stands in the address: a reload comes to the same step, view and layer", async ({ page }) => {
  const trials = (await program.ask("GET", "/api/trials?brief=1")).body as { id: number; kind: string }[];
  const { id } = trials.find(({ kind }) => kind === "temperature")!;
  await page.goto(`${program.address}/trials/${id}`);
  await page.getByRole("tab", { name: "Keep" }).click();
  await expect(page).toHaveURL(/step=keep/);
  await page.reload();
  await expect(page.getByRole("tab", { name: "Keep" })).toHaveAttribute("aria-selected", "true");
  await page.goto(`${program.address}/trials/${id}?view=above&layer=12`);
  await expect(page.getByRole("img", { name: "Layer 12 seen from above" })).toBeVisible();
});

test("one press and an answer begin with an empty bench; what was there is kept beside it", async ({ page }) => {
  await page.goto(`${program.address}/bench`);
  await page.getByRole("button", { name: "begin with an empty bench" }).click();
  await page.getByRole("dialog").getByRole("button", { name: "Begin" }).click();
  await expect(page.getByRole("heading", { name: "The bench is empty" })).toBeVisible();
  await expect(page.getByRole("link", { name: "Add a printer" })).toBeVisible();
  expect(good(await program.ask("GET", "/api/bench"))).toMatchObject({ printerId: null, spoolId: null });
  expect(readdirSync(data).filter((name) => name.startsWith("before-"))).not.toEqual([]);
  await expectAccessible(page);
});
