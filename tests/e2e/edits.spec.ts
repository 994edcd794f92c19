/** The Workshop's edits as sentences: begun, filled, seen before and after, ordered, switched off, undone, saved. */
import { APIRequestContext, expect, Page } from "@playwright/test";
import { expectAccessible, slicedTube, test, textOf } from "./helpers";

/** A tube with a fan that starts at layer 3 of 40, opened; its id and text. */
async function opened(request: APIRequestContext, name: string): Promise<{ id: number; text: string }> {
  const text = slicedTube(40, (i) => (i === 2 ? `; turn ${i}\nM106 S255` : `; turn ${i}`));
  const response = await request.post(`/api/files?name=${name}`, {
    data: Buffer.from(text),
    headers: { "Content-Type": "application/octet-stream" },
  });
  expect(response.status()).toBe(201);
  return { id: ((await response.json()) as { id: number }).id, text };
}

/** The sentence of the chosen edit, the columns' heads, and the places beside the log. */
const sentence = (page: Page) => page.getByRole("region", { name: /^Edit \d+ of \d+/ });
const head = (page: Page, number: number) => page.getByRole("button", { name: new RegExp(`^Edit ${number}:`) });
const places = (page: Page) => page.getByRole("region", { name: "Places of this edit" });

/** Begins an edit by saying what shall change. */
async function begin(page: Page, words: string): Promise<void> {
  await page.getByLabel("What shall change?").fill(words);
  await page.keyboard.press("Enter");
}

const settled = async (page: Page) => expect(page.getByText("Lines that change").locator("..")).not.toContainText("…");

async function fileOf(page: Page): Promise<string> {
  await settled(page);
  const waiting = page.waitForEvent("download");
  await page.getByRole("link", { name: "Get the file" }).click();
  return textOf(await waiting);
}

test("edits are sentences: the fan off above a layer, a text on the screen, a stop; each line seen before and after", async ({
  page,
  request,
}) => {
  const { id, text } = await opened(request, "three-edits.gcode");
  await page.goto(`/workshop/${id}`);
  await page.getByRole("tab", { name: "Edits" }).click();
  await expect(page.getByText("Nothing is changed yet.")).toBeVisible();
  await page.getByRole("button", { name: "The fan", exact: true }).click();
  const edit = sentence(page);
  await edit.getByLabel("Where").selectOption({ label: "from layer" });
  // The file's own comments count from 0; a layer keeps its place whichever way it is counted.
  await expect(edit.getByLabel("From layer, counted from 0")).toHaveValue("1");
  await edit.getByLabel("Layers count from").selectOption({ label: "counted from 1" });
  await expect(edit.getByLabel("From layer, counted from 1")).toHaveValue("2");
  await edit.getByLabel("From layer, counted from 1").fill("10");
  await edit.getByLabel("To layer, counted from 1").fill("20");
  await expect(head(page, 1)).toContainText("2 lines");
  await expect(places(page).getByText("M107 ; cuchara: fan off from here")).toBeVisible();
  await expect(places(page).getByText("1.8 to 2 mm, layer 10", { exact: true })).toBeVisible();

  await begin(page, "screen");
  await edit.getByLabel("Text on the screen").fill("deck {{layer}} of {{layers}}");
  await expect(head(page, 2)).toContainText("40 lines");
  await begin(page, "stop nut");
  await edit.getByLabel("Height").fill("4");
  await edit.getByLabel("Text on the screen").fill("put the nut in");
  await settled(page);
  await expectAccessible(page);
  const after = await fileOf(page);
  const lines = after.split("\n");
  // The fan by a reader of its own: on from turn 2, off from turn 9 (layer 10), on again from turn 20.
  const fanAt = (turn: number) => {
    const head = lines.slice(0, lines.indexOf(`; turn ${turn}`) + 6).filter((line) => /^M10[67]/.test(line));
    return head.at(-1)?.startsWith("M106") ?? false;
  };
  expect([1, 3, 8, 10, 15, 19, 21, 39].map(fanAt)).toEqual([false, true, true, false, false, false, true, true]);
  expect(after).toContain("M117 deck 1 of 40\n");
  expect(after).toContain("M117 deck 40 of 40\n");
  expect(lines.filter((line) => line === "M0 put the nut in")).toHaveLength(1);

  // Off, the screen's text is gone; on again, it is back; undone, the order is what it was.
  await head(page, 2).click();
  await page.getByRole("switch", { name: "Make edit 2" }).uncheck();
  expect(await fileOf(page)).not.toContain("M117 deck");
  await page.getByRole("switch", { name: "Make edit 2" }).check();
  await head(page, 3).click();
  await page.getByRole("button", { name: "Make edit 3 earlier" }).click();
  await expect(head(page, 2)).toContainText("pause");
  await page.getByRole("button", { name: "Undo" }).first().click();
  await expect(head(page, 3)).toContainText("pause");
  for (let i = 3; i > 0; i--) {
    await head(page, i).click();
    await page.getByRole("button", { name: `Take away edit ${i}` }).click();
  }
  await expect(page.getByText("Nothing is changed yet.")).toBeVisible();
  expect(await fileOf(page)).toBe(text);
});

test("where an edit begins is dragged on the log, a stop by keys; arrows choose the edit", async ({
  page,
  request,
}) => {
  const { id } = await opened(request, "dragged.gcode");
  const edits = [
    { kind: "fan", act: "off", fromMm: 2, toMm: 6, keepComments: true },
    { kind: "pause", at: { heightMm: 4 }, beep: true },
  ];
  await request.put(`/api/files/${id}/edits`, { data: edits });
  await page.goto(`/workshop/${id}`);
  await page.getByRole("tab", { name: "Edits" }).click();
  const ring = page.getByRole("button", { name: /^Where the edit begins/ });
  const box = (await ring.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 - 60, { steps: 5 });
  await page.mouse.up();
  const stackOf = async () =>
    (
      (await (await request.get(`/api/files/${id}/edits`)).json()) as {
        stack: { fromMm?: number; at?: { heightMm: number } }[];
      }
    ).stack;
  await expect.poll(async () => (await stackOf())[0].fromMm).toBeGreaterThan(2.5);
  await head(page, 1).focus();
  await page.keyboard.press("ArrowRight");
  const stop = page.getByRole("button", { name: /^Where the print stops/ });
  await stop.focus();
  await page.keyboard.press("ArrowUp");
  await expect.poll(async () => (await stackOf())[1].at!.heightMm).toBe(5);
});

test("lines are found by a command with a condition, one hit is left as it is; the outcome is opened as a file of its own", async ({
  page,
  request,
}) => {
  const { id } = await opened(request, "found.gcode");
  await page.goto(`/workshop/${id}`);
  await page.getByRole("tab", { name: "Edits" }).click();
  await page.getByRole("button", { name: "Lines with …" }).click();
  const find = sentence(page);
  await find.getByLabel("What to look for").fill("M106");
  await find.getByLabel("On which word").selectOption({ label: "with S" });
  await find.getByLabel("Value of the word").fill("100");
  await find.getByLabel("What is made of them").selectOption({ label: "given the word" });
  await find.getByLabel("Number", { exact: true }).fill("120");
  await expect(places(page).getByText("M106 S120")).toBeVisible();
  await settled(page);
  const saved = await request.post(`/api/files/${id}/save`, { data: { name: "found-120.gcode" } });
  expect(saved.status()).toBe(201);
  const copy = ((await saved.json()) as { id: number }).id;
  expect(await (await request.get(`/api/files/${copy}/gcode`)).text()).toContain("M106 S120");
  await places(page).getByRole("button", { name: "leave it" }).click();
  await expect(head(page, 1)).toContainText("0 lines");
  await expect(page.getByText("Nothing in the file is found like that.")).toBeVisible();
});

test("what cannot be done is said at its field, and the file stays as it was", async ({ page, request }) => {
  const { id, text } = await opened(request, "refused.gcode");
  const put = (edits: object[]) => request.put(`/api/files/${id}/edits`, { data: edits });
  const why = async (edits: object[]) => {
    const answer = await put(edits);
    expect(answer.status()).toBe(400);
    return ((await answer.json()) as { error: { field: string; message: string } }).error;
  };
  expect(await why([{ kind: "fan", act: "off", fromMm: 500 }])).toMatchObject({
    field: "0.fromMm",
    message: expect.stringContaining("The piece ends at"),
  });
  expect(await why([{ kind: "pause", at: { layer: 1, countsFrom: 1 } }])).toMatchObject({ field: "0.at" });
  expect(await why([{ kind: "find", find: { regexp: "(" }, act: { delete: true } }])).toMatchObject({
    field: "0.find.regexp",
  });
  expect(await why([{ kind: "move", byMm: { x: 900, y: 0, z: 0 } }])).toMatchObject({ field: "0.byMm" });
  expect(await why([{ kind: "display", text: "{{moon}}" }])).toMatchObject({ field: "0.text" });
  expect(await why([{ kind: "sorcery" }])).toMatchObject({
    message: expect.stringContaining("An edit's kind is one of"),
  });
  expect(await (await request.get(`/api/files/${id}/gcode`)).text()).toBe(text);
  await page.goto(`/workshop/${id}`);
  await page.getByRole("tab", { name: "Edits" }).click();
  await page.getByRole("button", { name: "Stop at a height" }).click();
  await sentence(page).getByLabel("Height", { exact: true }).fill("0");
  await expect(page.getByRole("alert").filter({ hasText: "pause at a later one" })).toBeVisible();
  // It stands at its edit, too.
  await expect(sentence(page)).toContainText("pause at a later one");
  await expect(head(page, 1)).toContainText("not done");
});

test("windows, searches and the machine's state are answered while an endless expression is given up", async ({
  request,
}) => {
  test.setTimeout(90_000);
  const { id, text } = await opened(request, "looked-into.gcode");
  const lines = text.split("\n");
  const window = (await (await request.get(`/api/files/${id}/lines?from=10&count=5`)).json()) as { lines: string[] };
  expect(window.lines).toEqual(lines.slice(10, 15));
  const search = (await (await request.get(`/api/files/${id}/search?text=turn 3`)).json()) as {
    count: number;
    hits: { line: number }[];
  };
  expect(search.count).toBe(11);
  const at = lines.findIndex((line) => line.startsWith("M106"));
  const state = (await (await request.get(`/api/files/${id}/state?line=${at}`)).json()) as { fanDuty: number[] };
  expect(state.fanDuty[0]).toBe(255);
  expect((await request.get(`/api/files/${id}/lines?from=-1`)).status()).toBe(400);

  const slow = `${"a".repeat(40)}!`;
  const heavy = await request.post("/api/files?name=slow.gcode", {
    data: Buffer.from(text.replace("; turn 5\n", `; turn 5\n; ${slow}\n`)),
    headers: { "Content-Type": "application/octet-stream" },
  });
  const heavyId = ((await heavy.json()) as { id: number }).id;
  const endless = request.put(`/api/files/${heavyId}/edits`, {
    data: [{ kind: "find", find: { regexp: "^; (a+)+$" }, act: { delete: true } }],
    timeout: 60_000,
  });
  let slowest = 0;
  for (let i = 0; i < 20; i++) {
    const started = Date.now();
    expect((await request.get("/api/health")).ok()).toBe(true);
    slowest = Math.max(slowest, Date.now() - started);
  }
  expect(slowest).toBeLessThan(2000);
  const refused = await endless;
  expect(refused.status()).toBe(400);
  expect(((await refused.json()) as { error: { message: string } }).error.message).toContain("took longer than");
});

test("the whole program is gone through: a line, a layer, a search with its hits, the words and what holds there, with and without the edits", async ({
  page,
  request,
}) => {
  const { id, text } = await opened(request, "gone-through.gcode");
  const lines = text.split("\n");
  await request.put(`/api/files/${id}/edits`, { data: [{ kind: "display", text: "deck {{layer}}", countsFrom: 1 }] });
  await page.goto(`/workshop/${id}`);
  await page.getByRole("tab", { name: "Program" }).click();
  const program = page.getByRole("region", { name: "Program text" });
  await expect(program.getByText(lines[0], { exact: true }).first()).toBeVisible();
  await page.getByLabel("Search the program").fill("M106");
  await expect(page.getByText("found once")).toBeVisible();
  await page.getByRole("button", { name: "The next hit" }).click();
  const meaning = page.getByRole("region", { name: "The line under the cursor" });
  await expect(meaning).toContainText("Part fan on");
  await expect(meaning).toContainText("100 %");
  await page.getByLabel("Search the program").fill("M117 deck 40");
  await expect(page.getByText("found once")).toBeVisible();
  await page.getByRole("switch", { name: "with the edits" }).uncheck();
  await expect(page.getByText("found nowhere")).toBeVisible();
  const wanted = lines.indexOf("; turn 20");
  await page.getByLabel("Go to line").fill(String(wanted + 1));
  await expect(meaning.getByRole("heading", { name: `Line ${wanted + 1}` })).toBeVisible();
  await expect(program.getByText("; turn 20", { exact: true })).toBeVisible();
  await program.focus();
  await page.keyboard.press("ArrowDown");
  await expect(meaning.getByRole("heading", { name: `Line ${wanted + 2}` })).toBeVisible();
  await expectAccessible(page);
});

test("a file of two materials: heats tool by tool, and the heater that was left on is off at the end", async ({
  page,
  request,
}) => {
  const layers = Array.from({ length: 6 }, (_, i) =>
    [0, 1]
      .map(
        (tool) =>
          `T${tool}\nG0 X${60 + tool * 40} Y60 Z${((i + 1) * 0.2).toFixed(2)} F6000\n` +
          ["80 60", "80 80", "60 80", "60 60"]
            .map((at) => `G1 X${Number(at.split(" ")[0]) + tool * 40} Y${at.split(" ")[1]} E0.7 F1800`)
            .join("\n"),
      )
      .join("\n"),
  );
  const text = [
    "M104 T0 S210",
    "M104 T1 S210",
    "M109 T0 S210",
    "M109 T1 S210",
    "G28",
    "G90",
    "M83",
    ...layers,
    "M104 T0 S0",
    "M84",
    "",
  ].join("\n");
  await request.put("/api/bench", { data: { printerId: 3, spoolId: 1 } });
  const response = await request.post("/api/files?name=two-materials.gcode", {
    data: Buffer.from(text),
    headers: { "Content-Type": "application/octet-stream" },
  });
  const { id } = (await response.json()) as { id: number };
  await request.put("/api/bench", { data: { printerId: 1, spoolId: 1 } });
  await page.goto(`/workshop/${id}`);
  await page.getByRole("tab", { name: "Edits" }).click();
  await page.getByRole("button", { name: "Heats of the tools" }).click();
  await page.getByLabel("Tool 0, first layer").fill("215");
  await page.getByLabel("Tool 0, later").fill("205");
  await page.getByLabel("Tool 1, later").fill("235");
  await page.getByLabel("Tool 0, while another is in").fill("170");
  await settled(page);
  await expectAccessible(page);
  // Words of an edit in another order than the server gives them back are the same edit.
  const waits = page.getByLabel(/nothing is waited for inside the print/);
  await waits.check();
  await settled(page);
  await waits.uncheck();
  await settled(page);
  const after = await fileOf(page);
  expect(after.startsWith("M104 T0 S215\nM104 T1 S210\nM109 T0 S215\n")).toBe(true);
  // Idle whenever the other comes in, and waited for whenever it comes back: in the second layer already at what holds later.
  expect(after.match(/^M104 S170 T0$/gm)).toHaveLength(6);
  expect(after.match(/^M109 S205 T0$/gm)).toHaveLength(5);
  expect(after.match(/S215/g)).toHaveLength(2);
  expect(after).toContain("M104 S235 T1");
  expect(after.trimEnd().split("\n").slice(-3)).toEqual(["M104 S0 T0", "M104 S0 T1", "M140 S0"]);
});

test("a file in the language of another printer is told; it is chosen beside the file, and edits speak its words", async ({
  page,
  request,
}) => {
  const text = slicedTube(12, (i) => (i === 2 ? `; turn ${i}\nM126 T0` : `; turn ${i}`)).replace("M107", "M127 T0");
  const response = await request.post("/api/files?name=valve.gcode", {
    data: Buffer.from(text),
    headers: { "Content-Type": "application/octet-stream" },
  });
  const { id } = (await response.json()) as { id: number };
  await request.put(`/api/files/${id}/edits`, { data: [{ kind: "fan", act: "off", fromLayer: 6, countsFrom: 1 }] });
  await page.goto(`/workshop/${id}`);
  const checks = page.getByRole("region", { name: "Checks" });
  await expect(checks.getByText(/does not know it, and no edit changes it/)).toBeVisible();
  const printers = (await (await request.get("/api/printers")).json()) as {
    id: number;
    name: string;
    dialect: string;
  }[];
  const valve = printers.find(({ dialect }) => dialect === "valve")!;
  await page.getByLabel("Which printer the file is for").selectOption({ label: valve.name });
  await expect(page.getByRole("button", { name: `Send it to ${valve.name}` })).toBeVisible();
  await expect(checks.getByText(/does not know it/)).toHaveCount(0);
  await expect(checks.getByText(/lines of material are as they should be/)).toBeVisible();
  const after = await (await request.get(`/api/files/${id}/gcode`)).text();
  expect(after.match(/^M127.*from here$/gm)).toHaveLength(1);
});

test("what the proof finds is said with its layer and line, and leads there", async ({ page, request }) => {
  const { id } = await opened(request, "spoiled.gcode");
  await request.put(`/api/files/${id}/edits`, { data: [{ kind: "fan", act: "off", fromLayer: 6, countsFrom: 1 }] });
  // No edit is known that is wrong: the answer is spoiled on its way.
  const message = "Layer 9, line 120 has the fan set to 100 % instead of 0 %.";
  await page.route(`**/api/files/${id}/proof`, async (route) => {
    const answer = (await (await route.fetch()).json()) as object;
    const differences = [{ field: "fan", layer: 8, line: 119, where: "layer 9, line 120", message, edit: 0 }];
    await route.fulfill({ json: { ...answer, wrong: [message], differences } });
  });
  await page.goto(`/workshop/${id}`);
  const checks = page.getByRole("region", { name: "Checks" });
  await expect(checks.getByText(message)).toBeVisible();
  await checks.getByRole("button", { name: "layer 9, line 120" }).click();
  await expect(page.getByRole("tab", { name: "Program" })).toHaveAttribute("aria-selected", "true");
  await expect(page.getByLabel("Go to line")).toHaveValue("120");
});
