import { expect } from "@playwright/test";
import { spawn } from "node:child_process";
import { freePort } from "../../scripts/own-program.cjs";
import { expectAccessible, test, openNewTrialForm } from "./helpers";

test("a spool is added with its material's figures, changed, copied, removed and put back", async ({ page }) => {
  // Another try finds the shelf as this one left it.
  const name = `PETG Fern ${Date.now() % 100000}`;
  await page.goto("/shelf/spools/new");
  // Pressed too early, it says what is missing, where.
  await page.getByRole("button", { name: "Add the spool" }).click();
  await expect(page.getByText("Give the spool a name")).toBeVisible();
  await expect(page.getByLabel("Name")).toBeFocused();
  await page.getByLabel("Name").fill(name);
  await page.getByLabel("Material").selectOption("PETG");
  await expect(page.getByLabel("Density")).toHaveValue("1.27");
  await page.getByLabel("Label says from").fill("300");
  await expect(page.getByText(/swap the two temperatures/)).toBeVisible();
  await page.getByRole("button", { name: "Add the spool" }).click();
  await expect(page.getByLabel("Label says to")).toBeFocused();
  await page.getByLabel("Label says from").fill("twenty");
  await expect(page.getByText("Label from must be a number")).toBeVisible();
  await page.getByLabel("Label says from").fill("230");
  await page.getByRole("button", { name: "Add the spool" }).click();
  await expect(page.getByRole("link", { name, exact: true })).toBeVisible();

  await page.getByRole("button", { name: `Copy ${name}` }).click();
  await expect(page.getByRole("link", { name: `${name} copy` })).toBeVisible();
  await page.getByRole("button", { name: `Remove ${name} copy` }).click();
  await expect(page.getByRole("link", { name: `${name} copy` })).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("link", { name: `${name} copy` })).toBeVisible();
});

test("a printer's start lines are checked, and what they lack stops the file", async ({ page, request }) => {
  const printer = (await (await request.get("/api/printers/1")).json()) as Record<string, unknown>;
  // Another try finds the shelf as this one left it.
  const name = `Test Ladle ${Date.now()}`;
  const added = (await (await request.post("/api/printers", { data: { ...printer, name } })).json()) as { id: number };
  await page.goto(`/shelf/printers/${added.id}`);
  await page.getByLabel("Start lines").fill("G28\nM109 S{{hot}}");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("link", { name })).toBeVisible();
  const trial = (await (
    await request.post("/api/trials", { data: { kind: "temperature", printerId: added.id, spoolId: 1 } })
  ).json()) as { id: number };
  const refused = await request.get(`/api/trials/${trial.id}/gcode`);
  expect(refused.status()).toBe(422);
  const { error } = (await refused.json()) as {
    error: { message: string; findings: { check: string; message: string }[] };
  };
  expect(error.findings.map(({ check }) => check)).toContain("not-sayable");
  expect(error.message).toMatch(/not handed out/);
  await page.goto(`/trials/${trial.id}`);
  await page.getByRole("button", { name: "Look at the printer", exact: true }).first().click();
  await expect(page.getByLabel("Start lines")).toHaveValue("G28\nM109 S{{hot}}");
});

test("a new printer tells of itself over a link, answers five questions, and is on the shelf", async ({
  page,
  request,
}) => {
  const port = await freePort();
  const stand = spawn(process.execPath, ["scripts/simulator.mjs", "--tcp", String(port), "--printer", "Whisk 300"]);
  try {
    await new Promise<void>((resolve) => stand.stdout.once("data", () => resolve()));
    await page.goto("/shelf/printers/new");
    const add = page.getByRole("button", { name: "Add the printer" });
    await add.click();
    await expect(page.getByText("Give the printer a name").first()).toBeVisible();
    await page.getByText("Network", { exact: true }).click();
    await page.getByLabel("Address").fill("127.0.0.1");
    await page.getByLabel("Port", { exact: true }).fill(String(port));
    await page.getByRole("button", { name: "Ask the printer" }).click();
    await page.getByRole("dialog").getByRole("button", { name: "Yes, ask it" }).click();
    // What the stand-in has in its memory: acceleration and junction deviation of its own.
    const told = page.getByRole("region", { name: "Ask the printer" });
    await expect(told).toContainText("Junction deviation0.026 mm", { timeout: 30_000 });
    await expect(told).toContainText("Acceleration, printing1500 mm/s²");
    await expect(told).toContainText("stays in the printer");
    await expectAccessible(page);
    const name = `Pan ${port}`;
    await page.getByLabel("Name", { exact: true }).first().fill(name);
    await page.getByRole("region", { name: "Five questions" }).getByLabel("Width (X), or diameter").fill("180");
    await page.getByText(/^Long: a tube/).click();
    await add.click();
    await expect(page.getByRole("link", { name })).toBeVisible();
    const list = (await (await request.get("/api/printers")).json()) as Record<string, unknown>[];
    expect(list.find((one) => one.name === name)).toMatchObject({
      dialect: "deviation",
      junctionDeviationMm: 0.026,
      printAccelerationMmS2: 1500,
      travelAccelerationMmS2: 2000,
      bedWidthMm: 180,
      // It told 1.2 mm itself; through a tube that is too short to be meant.
      retractionMm: 4,
    });
    await request.delete(`/api/printers/${String(list.find((one) => one.name === name)!.id)}`);
  } finally {
    stand.kill();
  }
});

test("what lies on the bench is chosen on the strip and asked about on the bench", async ({ page }) => {
  await page.goto("/bench");
  const strip = page.getByRole("region", { name: "On the bench" });
  await strip.getByRole("button", { name: /Larkfield PLA Saffron/ }).click();
  await page.getByRole("menuitem", { name: "Moss Hill TPU Plum" }).click();
  await expect(page.getByRole("heading", { name: "What does Plum want?" })).toBeVisible();
  await page.reload();
  await expect(strip.getByText("Moss Hill TPU Plum")).toBeVisible();
  await strip.getByRole("button", { name: /TPU Plum/ }).click();
  await page.getByRole("menuitem", { name: "Larkfield PLA Saffron" }).click();
  await expect(page.getByRole("heading", { name: "What does Saffron want?" })).toBeVisible();
});

test("with everything in motion a menu is chosen from and a dialog answered, as hands do", async ({
  browser,
  baseURL,
}) => {
  const context = await browser.newContext({ baseURL, reducedMotion: "no-preference" });
  const page = await context.newPage();
  // As long as a hand takes from one press to the next.
  const hand = () => page.waitForTimeout(500);
  await page.goto("/bench");
  await page.locator("html[data-ready]").waitFor({ state: "attached" });
  const strip = page.getByRole("region", { name: "On the bench" });
  for (const [from, to] of [
    ["PLA Saffron", "PLA Slate"],
    ["PLA Slate", "PLA Saffron"],
  ]) {
    await strip.getByRole("button", { name: `Larkfield ${from}` }).click();
    await hand();
    await page.getByRole("menuitem", { name: `Larkfield ${to}`, exact: true }).click();
    await expect(strip.getByText(`Larkfield ${to}`)).toBeVisible();
  }
  await openNewTrialForm(page);
  await hand();
  await expect(page.getByRole("dialog")).toBeVisible();
  await page.getByRole("dialog").getByRole("button", { name: "Cancel" }).click();
  await expect(page.getByRole("dialog")).toBeHidden();
  await context.close();
});

test("a new trial in one step, a copy of it, and removal with undo", async ({ page }) => {
  await openNewTrialForm(page);
  const spool = page.getByRole("dialog").getByLabel("Spool");
  await spool.selectOption(await spool.locator("option", { hasText: "Larkfield PLA Slate" }).textContent());
  await page.getByRole("button", { name: "Make the trial" }).click();
  await expect(page.getByLabel("Name of the trial")).toHaveValue("How hot does Slate want to be?");
  await page.goto("/trials");
  const row = page.getByRole("listitem").filter({ hasText: "How hot does Slate want to be?" }).first();
  await row.getByRole("button", { name: "Copy", exact: true }).click();
  const copies = page.getByRole("listitem").filter({ hasText: "Slate want to be? (copy)" });
  const copy = copies.first();
  await expect(copy).toBeVisible();
  const count = await copies.count();
  await copy.getByRole("button", { name: "Remove" }).click();
  await expect(copies).toHaveCount(count - 1);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(copies).toHaveCount(count);
});
