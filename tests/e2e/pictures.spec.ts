/** Pieces as pictures: the gallery of questions, the faces of lists, and the road at a glance. */
import { expect } from "@playwright/test";
import { expectAccessible, test } from "./helpers";

interface FirstPiece {
  kind: string;
  seconds: number;
  massG: number;
}

test("two clicks from the trials to a trial, chosen by its piece; what a card says agrees with the interface", async ({
  page,
  request,
}) => {
  const { printerId, spoolId } = (await (await request.get("/api/bench")).json()) as {
    printerId: number;
    spoolId: number;
  };
  const pieces = (await (
    await request.get(`/api/bench/first-pieces?printerId=${printerId}&spoolId=${spoolId}`)
  ).json()) as FirstPiece[];
  await page.goto("/trials");
  await page.getByRole("link", { name: "New trial" }).first().click();
  await expect(page.getByRole("heading", { name: "What do you want to find out?" })).toBeVisible();
  const cards = page.getByRole("list", { name: "Questions" }).getByRole("button");
  await expect(cards).toHaveCount(pieces.length);
  const fan = pieces.find(({ kind }) => kind === "fan")!;
  const card = cards.filter({ hasText: /^Fan/ });
  await expect(card).toContainText(`${Math.round(fan.seconds / 60)} min`);
  await expect(card).toContainText(`${Number(fan.massG.toFixed(1))} g`);
  expect(await card.locator("svg path").count()).toBeGreaterThan(5);
  await card.click();
  await page.waitForURL(/\/trials\/\d+$/);
  const trial = (await (await request.get(`/api${new URL(page.url()).pathname}`)).json()) as { kind: string };
  expect(trial.kind).toBe("fan");
});

test("the arrow keys walk along the cards, Enter asks", async ({ page }) => {
  await page.goto("/trials/new");
  const cards = page.getByRole("list", { name: "Questions" }).getByRole("button");
  await cards.first().focus();
  await page.keyboard.press("End");
  await expect(cards.last()).toBeFocused();
  await page.keyboard.press("ArrowLeft");
  await expect(cards.nth(-2)).toBeFocused();
  await page.keyboard.press("Home");
  await page.keyboard.press("ArrowRight");
  await expect(cards.nth(1)).toBeFocused();
  await page.keyboard.press("Enter");
  await page.waitForURL(/\/trials\/\d+$/);
});

test("a pair that is not on the shelf is said, with the way to the one on the bench", async ({ page }) => {
  await page.goto("/trials/new?printerId=9999");
  await expect(page.getByRole("heading", { name: "This printer is not on the shelf" })).toBeVisible();
  await page.getByRole("link", { name: "Ask with the pair on the bench" }).click();
  await expect(page.getByRole("list", { name: "Questions" })).toBeVisible();
});

for (const width of [1280, 390]) {
  for (const colorScheme of ["light", "dark"] as const) {
    test(`the gallery at ${width} px in ${colorScheme}: nothing wider than the page, no violation`, async ({
      page,
    }) => {
      await page.setViewportSize({ width, height: 844 });
      await page.emulateMedia({ colorScheme });
      await page.goto("/trials/new");
      await expect(page.getByRole("list", { name: "Questions" }).locator("svg").first()).toBeVisible();
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
      await expectAccessible(page);
    });
  }
}

test("lists have faces: made once, the same when they are asked for again, another when the plan is", async ({
  page,
  request,
}) => {
  await page.goto("/trials");
  await expect(page.getByRole("list", { name: "Trials" }).locator("svg").first()).toBeVisible();
  await page.goto("/workshop");
  await expect(page.getByRole("list", { name: "Opened files" }).locator("svg").first()).toBeVisible();
  await page.goto("/paths");
  await expect(page.getByRole("region", { name: "To begin with" }).locator("svg").first()).toBeVisible();

  const { id } = (await (
    await request.post("/api/trials", { data: { kind: "temperature", printerId: 1, spoolId: 1 } })
  ).json()) as { id: number };
  const face = async () => (await request.get(`/api/trials/${id}/thumbnail`)).text();
  const first = await face();
  expect(await face()).toBe(first);
  const { plan } = (await (await request.get(`/api/trials/${id}`)).json()) as { plan: { bands: unknown[] } };
  await request.put(`/api/trials/${id}`, { data: { plan: { ...plan, bands: plan.bands.slice(1) } } });
  const second = JSON.parse(await face()) as { bands: unknown[]; heightMm: number };
  expect(second.bands).toHaveLength(plan.bands.length - 1);
  expect(second.heightMm).toBeLessThan((JSON.parse(first) as { heightMm: number }).heightMm);
});

test("the Bench says at a glance how far a pair is, in agreement with its road", async ({ page, request }) => {
  const road = (
    (await (await request.get("/api/bench")).json()) as { road: { state: string; label: string; isNext: boolean }[] }
  ).road;
  await page.goto("/bench");
  const strip = page.getByRole("navigation", { name: "How far this pair is" });
  await expect(strip).toContainText(`next: ${road.find(({ isNext }) => isNext)!.label.toLowerCase()}`);
  await strip.getByRole("link", { name: /^Bridging/ }).click();
  await expect(page).toHaveURL(/#bridging$/);
  await expect(page.locator("#bridging")).toBeInViewport();
});
