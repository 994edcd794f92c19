import { expect } from "@playwright/test";
import { expectAccessible, test } from "./helpers";

const pages = [
  "/bench",
  "/trials",
  "/trials/2",
  "/workshop",
  "/workshop/2",
  "/paths",
  "/measure",
  "/shelf",
  "/shelf/printers/1",
  "/shelf/spools/1",
];

for (const path of pages) {
  test(`${path} has no violation that axe finds, light or dark`, async ({ page }) => {
    await page.goto(path);
    await page.waitForLoadState("networkidle");
    await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
    if (path === "/trials/2")
      await expect(page.getByRole("button", { name: "Get the file" })).toBeEnabled({ timeout: 30_000 });
    await expectAccessible(page);
    await page.getByRole("button", { name: "Dark" }).click();
    await expect(page.locator("html")).toHaveAttribute("data-scheme", "dark");
    // Nothing but colours differs.
    await expectAccessible(page, ["color-contrast"]);
  });
}

test("a measured tune has none either", async ({ page }) => {
  for (const tune of ["extruder-steps", "axis-steps", "wall-flow"]) {
    await page.goto(`/measure/${tune}`);
    await expect(page.getByRole("heading", { name: "What you need" })).toBeVisible();
    await expectAccessible(page);
  }
});

test("the other views of a trial have none either", async ({ page }) => {
  await page.goto("/trials/2");
  await expect(page.getByRole("button", { name: "Get the file" })).toBeEnabled({ timeout: 30_000 });
  for (const view of ["Bands", "From above", "Program"]) {
    await page.getByRole("tab", { name: view }).click();
    await page.waitForTimeout(800);
    await expectAccessible(page);
  }
});

test("everything by keys: areas, the list of keys, finding anything", async ({ page }) => {
  await page.goto("/bench");
  await page.waitForLoadState("networkidle");
  // Keys pressed before the page listens are lost, as under a hand.
  await expect(async () => {
    await page.keyboard.press("g");
    await page.keyboard.press("s");
    await expect(page.getByRole("heading", { name: "Shelf", exact: true })).toBeVisible({ timeout: 3000 });
  }).toPass();
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keys" })).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog", { name: "Keys" })).toBeHidden();
  await page.keyboard.press("Control+k");
  const input = page.getByLabel("Find a printer, a spool, a trial or a file");
  await expect(input).toBeFocused();
  await input.fill("kettle");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Old Kettle" })).toBeVisible();
});

test("the scheme is kept over a reload", async ({ page }) => {
  await page.goto("/bench");
  await page.getByRole("button", { name: "Dark" }).click();
  await expect(page.locator("html")).toHaveAttribute("data-scheme", "dark");
  await page.reload();
  await expect(page.locator("html")).toHaveAttribute("data-scheme", "dark");
  await page.getByRole("button", { name: "Light" }).click();
  await expect(page.locator("html")).toHaveAttribute("data-scheme", "light");
});

test("a phone held next to the print: nothing runs out of the page, and stop, Find and Keys stay in sight", async ({
  page,
  request,
}) => {
  await request.post("/api/link/connect", { data: { printerId: 1, transport: { kind: "simulated", rate: 1 } } });
  await page.setViewportSize({ width: 390, height: 844 });
  for (const path of [
    "/bench",
    "/trials",
    "/trials/2",
    "/workshop",
    "/workshop/1",
    "/printer/1",
    "/measure",
    "/shelf",
  ]) {
    await page.goto(path);
    await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
    const wider = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    expect([path, Math.max(wider, 0)]).toEqual([path, 0]);
    await page.evaluate(() => window.scrollTo(0, document.body.scrollHeight));
    for (const name of [/^Stop /, "Find", "Keys"])
      await expect(page.getByRole("button", { name, exact: typeof name === "string" })).toBeInViewport({ ratio: 1 });
  }
  await request.post("/api/link/disconnect", { data: { printerId: 1 } });
});
