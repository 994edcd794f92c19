import { expect } from "@playwright/test";
import { slicedTube, textOf, test } from "./helpers";

const gcode = (name: string, text: string) => ({ name, mimeType: "text/plain", buffer: Buffer.from(text) });

test("drop a file, put a plan on it by layer, get it back with only those lines more", async ({ page }) => {
  const original = slicedTube(60, (i) => `; turn ${i}`, "\r\n");
  await page.goto("/workshop");
  await page.getByLabel("Sliced file").setInputFiles(gcode("tube.gcode", original));
  await expect(page.getByRole("heading", { name: "tube.gcode" })).toBeVisible();
  await expect(page.getByText("“turn #” open its layers and count from 0")).toBeVisible();

  await page.getByRole("tab", { name: "Plan" }).click();
  await page.getByText("Layer, from 0").click();
  await page.getByRole("button", { name: "Fill in even steps …" }).click();
  await page.getByLabel("From", { exact: true }).fill("10");
  await page.getByLabel("One every").fill("15");
  await page.getByLabel("First value").fill("215");
  await page.getByLabel("Count", { exact: true }).fill("3");
  await page.getByRole("button", { name: "Make 3 changes" }).click();
  await expect(page.getByText("2 mm, layer 11 from 1")).toBeVisible();
  await expect(page.getByText("Every layer commands what the plan says.")).toBeVisible({ timeout: 30_000 });

  await page.getByRole("tab", { name: "Changed lines" }).click();
  await expect(page.getByText("+ M104 S215 ; cuchara: band 1/3 nozzle 215 from 2 mm")).toBeVisible();
  const waiting = page.waitForEvent("download");
  await page.getByRole("link", { name: "Get the file" }).click();
  const edited = await textOf(await waiting);
  const lines = edited.split("\r\n");
  expect(lines.filter((line) => !line.includes("cuchara")).join("\r\n")).toBe(original);
  // Each stands right behind the comment that opens its layer.
  [
    [10, 215],
    [25, 210],
    [40, 205],
  ].forEach(([layer, value]) =>
    expect(lines[lines.indexOf(`; turn ${layer}`) + 1]).toMatch(new RegExp(`^M104 S${value} ; cuchara`)),
  );
});

test("a file without edits comes out byte for byte as it went in", async ({ page, request }) => {
  const bytes = Buffer.concat([
    Buffer.from([0xef, 0xbb, 0xbf]),
    Buffer.from("; odd é file\r\nG28\nM104 S200\n"),
    Buffer.from(slicedTube(5, () => "(none)")),
    Buffer.from("G1 X1 ; no end"),
  ]);
  const response = await request.post("/api/files?name=odd.gcode", {
    data: bytes,
    headers: { "Content-Type": "application/octet-stream" },
  });
  expect(response.status()).toBe(201);
  const { id } = (await response.json()) as { id: number };
  expect(await (await request.get(`/api/files/${id}/gcode`)).body()).toEqual(bytes);
  await page.goto(`/workshop/${id}`);
  await expect(page.getByText("No comments open its layers")).toBeVisible();
});

test("a trial's plan goes onto an opened file", async ({ page }) => {
  await page.goto("/trials/2");
  await page.getByRole("button", { name: "Put this plan on my own file" }).click();
  await expect(page.getByText(/Choose the file that “How hot does Saffron want to be\?” goes onto/)).toBeVisible();
  await page.getByRole("link", { name: "marble-tile-funnel.gcode" }).click();
  await expect(page.getByText("is applied to this file")).toBeVisible();
  // The tile is 28 mm high, the plan 32.8: six bands land on it, one lies above, and that is said.
  await expect(page.getByText(/This has no effect: 28.2 mm is above the last layer/)).toBeVisible();
  await expect(page.getByRole("definition").filter({ hasText: /^6$/ })).toBeVisible();
});

test("an earlier plan is recognised and lifted out; the file's own changes are pointed out", async ({
  page,
  request,
}) => {
  await page.goto("/workshop");
  await page.getByRole("link", { name: "marble-tile-switch.gcode" }).click();
  await expect(page.getByText(/An earlier plan is still in this file: 2 lines/)).toBeVisible();
  await expect(page.getByText(/The file itself sets the nozzle to 205 °C inside the print/)).toBeVisible();
  const before = (await (await request.get("/api/files")).json()) as { id: number; name: string }[];
  const { id } = before.find(({ name }) => name === "marble-tile-switch.gcode")!;
  const original = (await (await request.get(`/api/files/${id}/gcode`)).body()).toString();
  await page.getByRole("button", { name: "Lift them out" }).click();
  await expect(page.getByText("The lines of an earlier plan: 2 lines.")).toBeVisible();
  await page.getByRole("button", { name: "Take that out" }).click();
  await expect(page.getByText("Nothing in this file gets in a plan's way.")).toBeVisible();
  const after = (await (await request.get(`/api/files/${id}/gcode`)).body()).toString();
  expect(
    original
      .split("\r\n")
      .filter((line) => !/cuchara|^M104 S205/.test(line))
      .join("\r\n"),
  ).toBe(after);
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText(/An earlier plan is still in this file/)).toBeVisible();
});

test("a file chosen before the page's script runs is taken once it does", async ({ page, request }) => {
  await page.route("**/_next/static/**", async (route) => {
    if (route.request().resourceType() === "script") await new Promise((resolve) => setTimeout(resolve, 1500));
    await route.continue();
  });
  const name = `early-${Date.now()}.gcode`;
  const ready = page.goto("/workshop");
  const tube = slicedTube(12, (i) => `; turn ${i}`);
  await page.getByLabel("Sliced file").setInputFiles(gcode(name, tube));
  expect(await page.locator("html[data-ready]").count()).toBe(0);
  await ready;
  await expect(page.getByRole("heading", { name })).toBeVisible();
  const files = (await (await request.get("/api/files")).json()) as { id: number; name: string }[];
  await request.delete(`/api/files/${files.find((file) => file.name === name)!.id}`);
});

test("sending can be cancelled, and nothing stays behind", async ({ page, request }) => {
  const count = async () => ((await (await request.get("/api/files")).json()) as unknown[]).length;
  const before = await count();
  await page.goto("/workshop");
  // The answer is held back, so that there is something to cancel.
  await page.route("**/api/files?name=*", async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 4000));
    await route.abort().catch(() => undefined);
  });
  await page.getByLabel("Sliced file").setInputFiles(
    gcode(
      "slow.gcode",
      slicedTube(20, (i) => `; turn ${i}`),
    ),
  );
  await page.getByRole("button", { name: "Cancel" }).click();
  await expect(page.getByRole("button", { name: "Choose a file" })).toBeVisible();
  expect(await count()).toBe(before);
});

test("what is no program is refused in a sentence on the page", async ({ page }) => {
  await page.goto("/workshop");
  const png = Buffer.from("89504e470d0a1a0a0000000d49484452000000010000000108060000001f15c489", "hex");
  for (const [name, buffer, sentence] of [
    ["empty.gcode", Buffer.alloc(0), /is empty/],
    ["picture.gcode", png, /holds binary data/],
    ["travel.gcode", Buffer.from("G28\nG0 X10 Y10\n"), /lays no material/],
    ["letter.gcode", Buffer.from("Dear printer,\nhow are you?\n"), /has no moves in it/],
  ] as const) {
    await page.getByLabel("Sliced file").setInputFiles({ name, mimeType: "text/plain", buffer });
    await expect(page.getByRole("alert").filter({ hasText: sentence })).toBeVisible();
  }
});

test("an opened file can be removed and put back", async ({ page }) => {
  await page.goto("/workshop");
  await page.getByRole("button", { name: "Remove bottle-green-tower.gcode" }).click();
  await expect(page.getByRole("link", { name: "bottle-green-tower.gcode" })).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("link", { name: "bottle-green-tower.gcode" })).toBeVisible();
});

test("the built demo file carries its own plan", async ({ request }) => {
  const files = (await (await request.get("/api/files")).json()) as { id: number; name: string }[];
  const { id } = files.find(({ name }) => name === "bottle-green-tower.gcode")!;
  const report = (await (await request.get(`/api/files/${id}/report`)).json()) as {
    layers: unknown[];
    cuchara: unknown[];
    markers: { countsFrom: number };
  };
  expect(report.cuchara).toHaveLength(6);
  expect(report.markers.countsFrom).toBe(1);
});

test("a plan hotter than the printer allows is said, handed out by nobody and sent to no printer", async ({
  page,
  request,
}) => {
  const response = await request.post("/api/files?name=hot.gcode", {
    data: Buffer.from(slicedTube(20, (i) => `; turn ${i}`)),
    headers: { "Content-Type": "application/octet-stream" },
  });
  const { id } = (await response.json()) as { id: number };
  const answer = await request.put(`/api/files/${id}/edits`, {
    data: [{ kind: "height-plan", changes: [{ from: { heightMm: 1 }, settings: { nozzleTemperature: 480 } }] }],
  });
  const { findings } = (await answer.json()) as { findings: { check: string; severity: string; message: string }[] };
  expect(findings).toContainEqual(expect.objectContaining({ check: "beyond-limits", severity: "stop" }));

  const handed = await request.get(`/api/files/${id}/gcode`);
  expect(handed.status()).toBe(422);
  expect(((await handed.json()) as { error: { message: string } }).error.message).toMatch(/480 °C/);
  const printerId = 1;
  await request.post("/api/link/connect", { data: { printerId, transport: { kind: "simulated", rate: 50 } } });
  const job = await request.post("/api/link/job", { data: { printerId, fileId: id } });
  expect(((await job.json()) as { error: { message: string } }).error.message).toMatch(/not sent.*480 °C/);
  await request.post("/api/link/disconnect", { data: { printerId } });

  await page.goto(`/workshop/${id}`);
  await expect(page.getByText(/The nozzle is set to 480 °C; Ladle 220 allows 260 °C/)).toBeVisible();
  await expect(page.getByRole("link", { name: "Get the file" })).toHaveCount(0);
  // Without the plan the file is as harmless as it was.
  await request.put(`/api/files/${id}/edits`, { data: [] });
  expect((await request.get(`/api/files/${id}/gcode`)).status()).toBe(200);
});
