/** More of the Workshop: every other edit from drop to file, sets, views, two files as one print, and a program from nothing. */
import { APIRequestContext, expect, Page } from "@playwright/test";
import { expectAccessible, slicedTube, test, textOf } from "./helpers";

async function openFile(request: APIRequestContext, name: string, text: string): Promise<number> {
  const response = await request.post(`/api/files?name=${name}`, {
    data: Buffer.from(text),
    headers: { "Content-Type": "application/octet-stream" },
  });
  expect(response.status()).toBe(201);
  return ((await response.json()) as { id: number }).id;
}

/** Drops a file where files are dropped, and waits for its page. */
async function drop(page: Page, name: string, text: string): Promise<void> {
  await page.goto("/workshop");
  await page
    .locator("input[type=file]")
    .first()
    .setInputFiles({ name, mimeType: "text/plain", buffer: Buffer.from(text) });
  await expect(page.getByRole("heading", { name })).toBeVisible();
  await page.getByRole("tab", { name: "Edits" }).click();
}

const sentence = (page: Page) => page.getByRole("region", { name: /^Edit \d+ of \d+/ });
const head = (page: Page, number: number) => page.getByRole("button", { name: new RegExp(`^Edit ${number}:`) });

async function outcome(page: Page): Promise<string> {
  await expect(page.getByText("Lines that change").locator("..")).not.toContainText("…");
  const waiting = page.waitForEvent("download");
  await page.getByRole("link", { name: "Get the file" }).click();
  return textOf(await waiting);
}

/** Two posts, 16 mm apart, with a deck of strands from one to the other at every tenth layer. */
function decked(layers = 20): string {
  const lines = ["M104 S210", "M109 S210", "G28", "G90", "M83"];
  const ring = (x: number, side: number, z: number) => {
    lines.push(`G0 X${x} Y100 Z${z} F6000`);
    for (const [ax, ay] of [
      [x + side, 100],
      [x + side, 106],
      [x, 106],
      [x, 100],
    ]) {
      lines.push(`G1 X${ax} Y${ay} E0.2 F1800`);
    }
    for (let y = 100.4; y < 106; y += 0.4) {
      lines.push(`G0 X${x + 0.4} Y${y.toFixed(1)} F6000`, `G1 X${x + side - 0.4} Y${y.toFixed(1)} E0.19 F1800`);
    }
  };
  for (let layer = 1; layer <= layers; layer++) {
    const z = (layer * 0.2).toFixed(2);
    lines.push(`; deck ${layer}`);
    ring(80, 6, Number(z));
    ring(102, 6, Number(z));
    if (layer % 10 !== 0) continue;
    for (let y = 100.6; y < 105.5; y += 0.5) {
      lines.push(`G0 X84 Y${y.toFixed(1)} F6000`, `G1 X104 Y${y.toFixed(1)} E0.8 F1800`);
    }
  }
  lines.push("M104 S0", "M84", "");
  return lines.join("\n");
}

test("bridges are found and laid cooler and slower; one of them is left as it is", async ({ page, request }) => {
  await request.post("/api/trials", { data: { kind: "bridging", printerId: 1, spoolId: 1 } });
  await drop(page, "decked.gcode", decked());
  await page.getByRole("button", { name: "Bridges", exact: true }).click();
  await expect(page.getByText("2 bridges found by what is below")).toBeVisible();
  await sentence(page).getByLabel("Cooler by").fill("20");
  await sentence(page).getByLabel("First layer, speed").fill("40");
  await page.getByRole("checkbox", { name: /^4 mm, layer 20/ }).uncheck();
  // As a bridging trial lays it, and then by hand again: 10 mm/s of the file's 30 are a third.
  await page.getByLabel("Lay it as a bridging trial does").selectOption({ index: 1 });
  await expect(sentence(page).getByLabel("First layer, speed")).toHaveValue("33");
  await sentence(page).getByLabel("First layer, speed").fill("40");
  await expect(page.getByText("Lines that change").locator("..")).not.toContainText("…");
  await expectAccessible(page);
  const after = await outcome(page);
  expect(after.match(/M104 S190 .*20 °C cooler/g)).toHaveLength(1);
  expect(after).toContain("F720");
  const list = (await (
    await request.get(`/api/files/${new URL(page.url()).pathname.split("/").pop()}/bridges`)
  ).json()) as {
    spanMm: number;
  }[];
  expect(list.map(({ spanMm }) => Math.round(spanMm))).toEqual([16, 16]);
});

test("finer outer walls with a cut before and after; speed of one kind of line; start and end of the printer's own", async ({
  page,
}) => {
  await drop(
    page,
    "walls.gcode",
    slicedTube(20, (i) => `; turn ${i}`),
  );
  await page.getByRole("button", { name: "Finer outer walls" }).click();
  await expect(page.getByRole("img", { name: /^Before: a cut through the wall, [1-9]/ })).toBeVisible();
  await expect(page.getByRole("img", { name: /^After: a cut through the wall, [1-9]/ })).toBeVisible();
  const walls = await outcome(page);
  expect(walls).toContain("; cuchara: laid anew");
  await page.getByRole("button", { name: "Take away edit 1" }).click();

  await page.getByRole("button", { name: "Speed", exact: true }).click();
  await sentence(page).getByLabel("Which lines").selectOption({ label: "outer walls" });
  await sentence(page).getByLabel("Percent").fill("50");
  await expect(head(page, 1)).not.toContainText("0 lines");
  await page.getByLabel("What shall change?").fill("shut down");
  await page.keyboard.press("Enter");
  await sentence(page).getByLabel("Which lines").selectOption({ label: "start and end lines become" });
  const after = await outcome(page);
  expect(after).toContain("; cuchara: start lines of Ladle 220");
  await expect(page.getByText("Material is laid where it was.")).toBeVisible();
});

test("edits are kept under a name, laid over the next file, written out and read back", async ({ page, request }) => {
  const text = slicedTube(30, (i) => `; turn ${i}`);
  const first = await openFile(request, "first.gcode", text);
  const next = await openFile(request, "next.gcode", text);
  await request.put(`/api/files/${first}/edits`, {
    data: [{ kind: "display", text: "deck {{layer}}", countsFrom: 1 }],
  });
  await page.goto(`/workshop/${first}`);
  await page.getByRole("tab", { name: "Edits" }).click();
  await page.getByRole("button", { name: "Keep these edits" }).click();
  await page.getByLabel("Name of the set").fill("What my screen shows");
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(page.getByText("“What my screen shows” is kept")).toBeVisible();
  const waiting = page.waitForEvent("download");
  await page.getByRole("link", { name: "Write them out (JSON)" }).click();
  const json = await textOf(await waiting);
  expect(JSON.parse(json)).toEqual(
    [{ kind: "display", text: "deck {{layer}}", countsFrom: 1, progress: undefined }].map((one) =>
      JSON.parse(JSON.stringify(one)),
    ),
  );

  await page.goto(`/workshop/${next}`);
  await page.getByRole("tab", { name: "Edits" }).click();
  await page.getByLabel("Use kept edits on this file").selectOption({ label: "What my screen shows: display" });
  await expect(head(page, 1)).toContainText("30 lines");
  expect(await outcome(page)).toContain("M117 deck 30");
  await page
    .getByLabel("Edits as JSON")
    .setInputFiles({ name: "edits.json", mimeType: "application/json", buffer: Buffer.from(json) });
  await expect(head(page, 2)).toBeVisible();
  await page
    .getByLabel("Edits as JSON")
    .setInputFiles({ name: "no.json", mimeType: "application/json", buffer: Buffer.from("{}") });
  await expect(page.getByText(/“no.json” is no set of edits/)).toBeVisible();
  await page.getByRole("button", { name: "Open the result as a file" }).click();
  await expect(page.getByRole("heading", { name: "next-tuned.gcode" })).toBeVisible();
});

test("an opened file is seen from above, along its path and in figures; a finding leads to its line", async ({
  page,
  request,
}) => {
  const text = slicedTube(20, (i) => (i === 9 ? `; turn ${i}\nM109 S205` : `; turn ${i}`));
  const id = await openFile(request, "seen.gcode", text);
  await page.goto(`/workshop/${id}`);
  await page.getByRole("tab", { name: "From above" }).click();
  const above = page.getByRole("img", { name: /Layer 1 seen from above/ });
  await expect(above).toBeVisible();
  const isDrawn = await above.evaluate((canvas: HTMLCanvasElement) => {
    const { data } = canvas.getContext("2d")!.getImageData(0, 0, canvas.width, canvas.height);
    return data.some((byte) => byte > 0);
  });
  expect(isDrawn).toBe(true);
  await page.getByRole("tab", { name: "Path" }).click();
  await expect(page.locator("canvas").first()).toBeVisible();
  await page.getByRole("tab", { name: "Heat and flow" }).click();
  await expect(page.getByRole("group", { name: "Values along the height" })).toBeVisible();
  await expectAccessible(page);
  const line = text.split("\n").indexOf("M109 S205") + 1;
  await page
    .getByRole("button", { name: new RegExp(`^line ${line}`) })
    .first()
    .click();
  await expect(
    page.getByRole("region", { name: "The line under the cursor" }).getByRole("heading", { name: `Line ${line}` }),
  ).toBeVisible();
});

test("two files of one grid become one print on two tools, seen by tool", async ({ page, request }) => {
  const left = slicedTube(12, (i) => `; turn ${i}`);
  const right = left.replace(/ X(-?[\d.]+)/g, (_, x: string) => ` X${Number(x) + 60}`);
  await request.put("/api/bench", { data: { printerId: 3, spoolId: 1 } });
  const a = await openFile(request, "left.gcode", left);
  await openFile(request, "right.gcode", right);
  await request.put("/api/bench", { data: { printerId: 1, spoolId: 1 } });
  await page.goto(`/workshop/${a}`);
  await page.getByRole("tab", { name: "Edits" }).click();
  const card = page.getByRole("region", { name: "Two materials" });
  // It is found by what people call it.
  const begin = page.getByLabel("What shall change?");
  await begin.fill("merge");
  await begin.press("Enter");
  await expect(card).toBeFocused();
  // A printer of one tool cannot lay both, and that is said.
  await page.getByLabel("Which printer the file is for").selectOption({ label: "Whisk 300" });
  await expect(card).toContainText("has one tool");
  await page.getByLabel("Which printer the file is for").selectOption({ label: "Twin Ladle" });
  await expect(card).not.toContainText("has one tool");
  await card.getByLabel("The other file").selectOption({ label: "right.gcode" });
  await card.getByRole("button", { name: "Make one print of them" }).click();
  await expect(page.getByRole("heading", { name: "left-and-right.gcode" })).toBeVisible();
  await page.getByRole("tab", { name: "Heat and flow" }).click();
  await expect(page.getByRole("img", { name: "Which tool lays what" })).toBeVisible();
  await page.getByRole("tab", { name: "From above" }).click();
  await expect(page.getByText("coloured by tool")).toBeVisible();
  const text = await (await request.get(`/api/files/${new URL(page.url()).pathname.split("/").pop()}/gcode`)).text();
  expect(text.match(/^T\d/gm)!.length).toBeGreaterThanOrEqual(12);
  const refused = await request.post(`/api/files/${a}/merge`, { data: { with: a, tools: [1, 1] } });
  expect(refused.status()).toBe(400);
});

test("a program is written from nothing, completed, drawn, checked, tried and kept", async ({ page, request }) => {
  await page.goto("/workshop");
  await page.getByRole("button", { name: "New program" }).click();
  await expect(page.getByLabel("Name of the program")).toHaveValue("New program.gcode");
  const text = page.getByLabel("Program text");
  await text.click();
  await page.keyboard.type("G0 X10");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/X moves before it was homed/)).toBeVisible();
  await page.keyboard.press("Control+a");
  await page.keyboard.press("Delete");
  await page.keyboard.type("G9");
  await expect(page.getByRole("option", { name: /G92/ })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+a");
  await page.keyboard.press("Delete");
  await page.getByLabel("Put in a beginning").selectOption({ label: "A square of 20 mm round the middle" });
  await expect(page.getByText("Nothing in it would do harm.")).toBeVisible();
  await expect(page.getByRole("img", { name: /The path from above; the nozzle at X110 Y110 Z5 mm/ })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Next line" }).click();
  await expect(page.getByRole("list", { name: "What was sent and what came back" })).toContainText("G28 → ok");
  await page.getByRole("button", { name: "To the end" }).click();
  await expect(page.getByText(/^At its end\./)).toBeVisible();
  await page.getByLabel("Name of the program").fill("Middle.gcode");
  const id = new URL(page.url()).pathname.split("/").pop();
  const kept = async () => (await (await request.get(`/api/programs/${id}`)).json()) as { name: string; text: string };
  await expect.poll(async () => (await kept()).name).toBe("Middle.gcode");
  expect((await kept()).text).toContain("G91 ; positions from where it stands");
  await page.goto("/workshop");
  await page.getByRole("link", { name: "Middle.gcode" }).click();
  await expect(page.getByLabel("Program text")).toContainText("G0 X20");
});

test("programs over HTTP: kept, changed, and refused with a sentence", async ({ request }) => {
  const made = await request.post("/api/programs", { data: { name: "by hand.gcode", text: "G28\n" } });
  expect(made.status()).toBe(201);
  const { id } = (await made.json()) as { id: number };
  const put = await request.put(`/api/programs/${id}`, { data: { text: "G28\nG0 Z5\n" } });
  expect(await put.json()).toMatchObject({ id, text: "G28\nG0 Z5\n", layers: 0 });
  expect(await (await request.get(`/api/files/${id}/gcode`)).text()).toBe("G28\nG0 Z5\n");
  const stale = await request.put(`/api/programs/${id}`, { data: { text: "G28\n", version: 1 } });
  expect(stale.status()).toBe(409);
  expect((await request.post("/api/programs", { data: { name: "", text: "" } })).status()).toBe(400);
  expect((await request.put("/api/programs/99999", { data: { text: "" } })).status()).toBe(404);
});

test("a search streams its hits, and goes on where it was cancelled by nobody else", async ({ request }) => {
  const id = await openFile(
    request,
    "streamed.gcode",
    slicedTube(300, (i) => `; turn ${i}`),
  );
  const answer = await request.get(`/api/files/${id}/search?text=turn 29`, {
    headers: { Accept: "application/x-ndjson" },
  });
  const news = (await answer.text())
    .trim()
    .split("\n")
    .map((line) => JSON.parse(line) as { line?: number; count?: number });
  // Turn 29 and 290 to 299.
  expect(news.filter(({ line }) => line !== undefined)).toHaveLength(11);
  expect(news.at(-1)).toEqual({ count: 11 });
});
