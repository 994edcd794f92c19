/** Paths: a sheet from nothing to a downloaded file, wrong formulas, the order of repeats, keep-outs, trials made of it, and play. */
import { APIRequestContext, expect, Page } from "@playwright/test";
import { expectAccessible, test, textOf, openNewTrialForm } from "./helpers";

const ring = { kind: "circle", centre: ["60", "60"], radiusMm: "8" };
const up = { kind: "repeat", along: "z", count: "80", spacingMm: "0.2", items: [ring] };
const plain = {
  version: 1,
  name: "A sheet",
  figures: [],
  bead: { widthMm: "0.45", heightMm: "0.2" },
  speedMmS: "40",
  items: [up] as object[],
  keepOut: [] as object[],
};

async function made(request: APIRequestContext, change: object): Promise<number> {
  const answer = await request.post("/api/sheets", { data: { ...plain, ...change } });
  expect(answer.status()).toBe(201);
  return ((await answer.json()) as { id: number }).id;
}

const picture = (page: Page, strokes: string) =>
  page.getByRole("img", { name: `The sheet from above: ${strokes}`, exact: true });

test("touching rings from an empty sheet to a downloaded file, by keyboard alone", async ({ page, request }) => {
  await page.goto("/paths");
  await page.getByRole("button", { name: "New sheet" }).press("Enter");
  const name = page.getByLabel("Name of the sheet");
  await expect(name).toHaveValue("New sheet");
  await name.fill("Touching rings");
  await expect(picture(page, "20 strokes")).toBeVisible();
  // A repeat is put in behind the ring; the ring goes behind it, and into it.
  const upwards = page.getByRole("button", { name: /^up 20 ×/ });
  await upwards.press("Enter");
  await page.getByLabel("Lay more in row 1").selectOption({ label: "repeat" });
  const ringRow = page.getByRole("button", { name: /^ring/ });
  await ringRow.focus();
  await page.keyboard.press("Alt+ArrowDown");
  await expect(page.getByRole("group", { name: "row 1.2: ring" })).toBeVisible();
  await expect(ringRow).toBeFocused();
  await page.keyboard.press("Alt+ArrowRight");
  await expect(page.getByRole("group", { name: "row 1.1.1: ring" })).toBeVisible();
  await page.keyboard.press("ArrowUp");
  await page.keyboard.press("Enter");
  await page.getByLabel("times, row 1.1").fill("4");
  const every = page.getByLabel("every, row 1.1");
  await every.fill("2*r + 0.4");
  // What it comes to stands behind it.
  await expect(page.getByRole("group", { name: "row 1.1: along X" })).toContainText("= 30.4");
  await ringRow.press("Enter");
  const radius = page.getByLabel("radius, row 1.1.1");
  await radius.fill("radus");
  await expect(page.getByRole("group", { name: "row 1.1.1: ring" })).toContainText("there is no “radus”");
  await expect(page.getByRole("button", { name: "Get the file" })).toBeDisabled();
  // A name is completed as it is typed.
  await radius.fill("mi");
  await expect(page.getByRole("listbox", { name: "Names to use" })).toContainText("min");
  await radius.press("Enter");
  await expect(radius).toHaveValue("min(");
  await radius.pressSequentially("r, 20)");
  await page.getByLabel("centre X, row 1.1.1").fill("50");
  // A plain number goes a step on with the arrows.
  await page.getByLabel("centre X, row 1.1.1").press("Shift+ArrowUp");
  await expect(page.getByLabel("centre X, row 1.1.1")).toHaveValue("60");
  await expect(picture(page, "80 strokes")).toBeVisible();
  await expect(page.getByRole("link", { name: "Get the file" })).toBeVisible();
  await expectAccessible(page);
  const id = new URL(page.url()).pathname.split("/").pop();
  const kept = async () =>
    (await (await request.get(`/api/sheets/${id}`)).json()) as {
      items: { items: { count?: string; items: { centre: string[] }[] }[] }[];
    };
  await expect.poll(async () => (await kept()).items[0].items[0].items[0].centre[0]).toBe("60");
  const waiting = page.waitForEvent("download");
  await page.getByRole("link", { name: "Get the file" }).press("Enter");
  const text = await textOf(await waiting);
  expect(text).toContain("; Cuchara: a sheet, Touching rings");
  // Four rings of 15 mm, from X 45 to 166.2: the middles 30.4 mm apart.
  const xs = [...text.matchAll(/^G1 X([\d.]+)[^\n]* E/gm)].map(([, x]) => Number(x));
  expect(Math.min(...xs)).toBeCloseTo(45, 0);
  expect(Math.max(...xs)).toBeCloseTo(166.2, 0);
  // What was done in one field is undone at once, and done again.
  await page.keyboard.press("Control+z");
  await expect(page.getByLabel("centre X, row 1.1.1")).toHaveValue("110");
  await page.keyboard.press("Control+Shift+z");
  await expect(page.getByLabel("centre X, row 1.1.1")).toHaveValue("60");
});

test("rows are dragged, folded, switched off, put once more and taken away; what is pointed at is lit everywhere", async ({
  page,
  request,
}) => {
  const line = {
    kind: "line",
    points: [
      ["30", "30"],
      ["60", "30"],
    ],
  };
  const id = await made(request, { items: [line, { ...up, count: "10" }] });
  await page.goto(`/paths/${id}`);
  await expect(picture(page, "11 strokes")).toBeVisible();
  await page.getByRole("button", { name: /^line/ }).dragTo(page.getByRole("button", { name: /^up 10 ×/ }));
  await expect(page.getByRole("group", { name: "row 1.2: line" })).toBeVisible();
  await expect(picture(page, "20 strokes")).toBeVisible();
  await page.getByRole("button", { name: "Fold row 1" }).click();
  await expect(page.getByRole("group", { name: "row 1.2: line" })).toBeHidden();
  await page.getByRole("button", { name: "Unfold row 1" }).click();
  await page.getByRole("button", { name: /^line/ }).focus();
  await page.keyboard.press("d");
  await expect(picture(page, "30 strokes")).toBeVisible();
  await page.keyboard.press("o");
  await expect(picture(page, "20 strokes")).toBeVisible();
  await page.keyboard.press("Delete");
  await expect(page.getByRole("group", { name: "row 1.3: line" })).toBeHidden();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("group", { name: "row 1.3: line" })).toBeVisible();
  // The picture tells the outline which row lies under the pointer, and the outline the program.
  const drawn = picture(page, "20 strokes");
  const { width, height } = (await drawn.boundingBox())!;
  await expect(async () => {
    let isLit = false;
    for (let y = 10; y < height && !isLit; y += 12) {
      await drawn.hover({ position: { x: width / 2, y } });
      isLit = (await page.locator("[role=group][data-lit]").count()) > 0;
    }
    expect(isLit).toBe(true);
  }).toPass();
  await page.getByRole("tab", { name: "Program" }).click();
  // What comes meanwhile may move the row away from under the pointer.
  await expect(async () => {
    await page.getByRole("tab", { name: "Program" }).hover();
    await page.getByRole("button", { name: /^ring/ }).hover();
    await expect(page.locator(".cm-inserted").first()).toBeVisible({ timeout: 2000 });
  }).toPass();
  for (const tab of ["In space", "What it takes"]) {
    await page.getByRole("tab", { name: tab }).click();
    await expect(page.getByRole("tab", { name: tab })).toHaveAttribute("aria-selected", "true");
  }
  await expect(page.getByText("Flow, mm³/s")).toBeVisible();
});

test("pasted places, own lines, and how a stroke is laid", async ({ page, request }) => {
  const id = await made(request, { items: [] });
  await page.goto(`/paths/${id}`);
  await page.getByLabel("Lay something more").selectOption({ label: "line" });
  // A new row stands open.
  const places = page.getByLabel("Places, row 1");
  await places.fill("x,y\n50,50\n80;50\n80\t80");
  await expect(page.getByRole("button", { name: /^line 3 places from 50, 50/ })).toBeVisible();
  await places.fill("50,50\n80\n");
  await expect(page.getByRole("group", { name: "row 1: line" })).toContainText("Line 2, “80”, is no place");
  await places.fill("50,50\n80,50\n80,80");
  await page.getByRole("group", { name: "row 1: line" }).getByText("closed: back to its first place").click();
  await page.getByText("How it is laid").click();
  await page.getByLabel("Filled with, row 1").selectOption({ label: "lines" });
  await page.getByLabel("covered, %, row 1").fill("200");
  await expect(page.getByRole("group", { name: "row 1: line" })).toContainText("A fill of 200 % cannot be");
  await page.getByLabel("covered, %, row 1").fill("50");
  await page.getByLabel("speed, mm/s, row 1").fill("25");
  await page.getByLabel("Lay something more").selectOption({ label: "own lines" });
  await page.getByLabel("Lines, row 2").fill("M117 Half {10/4}");
  await page.getByRole("button", { name: "Earlier, row 2" }).click();
  await expect(page.getByRole("link", { name: "Get the file" })).toBeVisible();
  const program = async () => (await request.get(`/api/sheets/${id}/gcode?printerId=1&spoolId=1`)).text();
  await expect.poll(program).toMatch(/M117 Half 2\.5[\s\S]* F1500/);
});

test("up first and then sideways is a stop; one press lays it layer by layer", async ({ page, request }) => {
  const id = await made(request, {
    name: "Up first",
    items: [{ kind: "repeat", along: "x", count: "4", spacingMm: "20", items: [up] }],
  });
  expect((await request.get(`/api/sheets/${id}/gcode?printerId=1&spoolId=1`)).status()).toBe(422);
  await page.goto(`/paths/${id}`);
  await expect(page.getByText(/would strike the piece/)).toBeVisible();
  await page.getByRole("button", { name: "Lay it layer by layer" }).click();
  await page.getByText(/things are in order/).click();
  await expect(page.getByText("Nozzle and head clear everything that is printed.")).toBeVisible();
  await expect
    .poll(async () => (await request.get(`/api/sheets/${id}/gcode?printerId=1&spoolId=1`)).status())
    .toBe(200);
});

test("what is kept out cuts strokes, is crossed or gone round, and follows its formulas", async ({ page, request }) => {
  const id = await made(request, { figures: [{ name: "hole", value: "3", unit: "mm", low: 1, high: 9 }] });
  await page.goto(`/paths/${id}`);
  await expect(picture(page, "80 strokes")).toBeVisible();
  await page.getByLabel("Keep something out").selectOption({ label: "circle" });
  await page.getByLabel("centre X, place 1 kept out").fill("68");
  await page.getByLabel("centre Y, place 1 kept out").fill("60");
  await page.getByLabel("radius, place 1 kept out").fill("hole");
  await expect(page.getByText(/is crossed 80 times/)).toBeVisible();
  const filament = async () =>
    (
      (await (
        await request.post("/api/sheets/check", { data: { sheet: await stored(), printerId: 1, spoolId: 1 } })
      ).json()) as {
        figures: { filamentMm: number };
      }
    ).figures.filamentMm;
  const stored = async () => {
    const {
      id: _i,
      revision: _r,
      createdAt: _c,
      updatedAt: _u,
      ...sheet
    } = (await (await request.get(`/api/sheets/${id}`)).json()) as Record<string, unknown>;
    return sheet;
  };
  await expect.poll(async () => JSON.stringify(await stored())).toContain('"radiusMm":"hole"');
  const crossed = await filament();
  await page.getByRole("button", { name: "Go round the edge" }).click();
  await expect(page.getByText(/is crossed 80 times/)).toBeHidden();
  await expect.poll(async () => JSON.stringify(await stored())).toContain('"around":true');
  expect(await filament()).toBeGreaterThan(crossed);
  await page.getByLabel("radius, place 1 kept out").fill("hole/0");
  await expect(page.getByRole("group", { name: "place 1 kept out" })).toContainText("has no value");
});

test("a sheet is the piece of a trial: made from its page, and chosen for a new one", async ({ page, request }) => {
  const id = await made(request, { name: "My cup", items: [{ ...up, items: [{ ...ring, centre: ["110", "110"] }] }] });
  await page.goto(`/paths/${id}`);
  await page.getByRole("button", { name: "Ask something with it" }).click();
  await page.getByRole("dialog").getByLabel("What to find out").selectOption({ label: "Fan" });
  await page.getByRole("button", { name: "Make the trial" }).click();
  await page.waitForURL(/\/trials\/\d+/);
  await expect(page.getByText(/the sheet “My cup”/).first()).toBeVisible();
  const trial = new URL(page.url()).pathname.split("/").pop();
  const program = await (await request.get(`/api/trials/${trial}/gcode`)).text();
  // Bands of the fan over the sheet's own 16 mm.
  expect(program).toContain("; layer 80 of 80");
  expect([...program.matchAll(/^M10[67].*cuchara: band \d/gm)].length).toBeGreaterThan(3);
  await openNewTrialForm(page);
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Piece").selectOption({ label: "My cup" });
  await dialog.getByLabel("What to find out").selectOption({ label: "Bridging" });
  await expect(dialog.getByLabel("Piece")).toBeHidden();
  const refused = await request.post("/api/trials", {
    data: { kind: "bridging", printerId: 1, spoolId: 1, sheet: { ...plain, name: "My cup" } },
  });
  expect(refused.status()).toBe(400);
  expect(((await refused.json()) as { error: { message: string } }).error.message).toContain("needs its own piece");
});

test("played, sought and ended; taken to the Workshop; written out and read in again", async ({ page, request }) => {
  const id = await made(request, { name: "To be played" });
  await page.goto(`/paths/${id}`);
  await expect(picture(page, "80 strokes")).toBeVisible();
  await page.getByRole("button", { name: "Play" }).click();
  await expect(page.getByText(/layer \d+ of 80/)).toBeVisible();
  await page.getByRole("button", { name: "Pause" }).click();
  const where = page.getByRole("slider", { name: "Where in the print" });
  const most = Number(await where.getAttribute("max"));
  await where.fill(String(Math.floor(most / 2)));
  await expect(page.getByText(/layer (39|40|41) of 80/)).toBeVisible();
  await page.getByRole("button", { name: "End", exact: true }).click();
  await expect(page.getByText(/layer \d+ of 80/)).toBeHidden();
  const waiting = page.waitForEvent("download");
  await page.getByRole("link", { name: "Write the sheet out (JSON)" }).click();
  const json = await textOf(await waiting);
  await page.getByRole("button", { name: "Open it in the Workshop" }).click();
  await page.waitForURL(/\/workshop\/\d+/);
  await expect(page.getByText("To be played.gcode").first()).toBeVisible();
  await page.goto("/paths");
  await page.getByLabel("A sheet as JSON").setInputFiles({
    name: "sheet.json",
    mimeType: "application/json",
    buffer: Buffer.from("no sheet"),
  });
  await expect(page.getByText(/“sheet.json” isn.t a sheet file/)).toBeVisible();
  await page.getByLabel("A sheet as JSON").setInputFiles({
    name: "sheet.json",
    mimeType: "application/json",
    buffer: Buffer.from(json.replace("To be played", "Read in again")),
  });
  await page.waitForURL(/\/paths\/\d+/);
  await expect(page.getByLabel("Name of the sheet")).toHaveValue("Read in again");
  // And found by its name from anywhere.
  await page.goto("/bench");
  await page.keyboard.press("Control+k");
  await page.getByLabel("Find a printer, a spool, a trial or a file").fill("read in again");
  await page.getByRole("button", { name: /Read in again.*sheet/ }).click();
  await expect(page.getByLabel("Name of the sheet")).toHaveValue("Read in again");
});

test("a sheet of two million moves is laid beside the page, which goes on answering, and can be stopped", async ({
  page,
  request,
}) => {
  const id = await made(request, {
    items: [
      {
        kind: "repeat",
        along: "z",
        count: "5",
        spacingMm: "0.2",
        items: [
          {
            kind: "curve",
            from: "0",
            to: "1",
            x: "110 + 80*cos(900*t)*t",
            y: "110 + 80*sin(900*t)*t",
            steps: "400000",
          },
        ],
      },
    ],
  });
  await page.goto(`/paths/${id}`);
  await expect(page.getByText(/Laying: [\d,]+ moves so far/)).toBeVisible({ timeout: 20_000 });
  // Whatever the worker does, a letter is there when it is typed.
  await page.getByLabel("Name of the sheet").fill("Many moves");
  await expect(page.getByLabel("Name of the sheet")).toHaveValue("Many moves");
  await expect(page.getByText(/Laying: [\d,]+ moves so far/)).toBeVisible({ timeout: 20_000 });
  await page.getByRole("button", { name: "Stop" }).click();
  await expect(page.getByText(/Stopped\./)).toBeVisible();
  await page.getByRole("button", { name: "Lay it" }).click();
  await expect(picture(page, "5 strokes")).toBeVisible({ timeout: 60_000 });
});

test("sheets over HTTP, as documented", async ({ request }) => {
  const check = async (change: object) => {
    const answer = await request.post("/api/sheets/check", {
      data: { sheet: { ...plain, ...change }, printerId: 1, spoolId: 1 },
    });
    return { status: answer.status(), body: (await answer.json()) as Record<string, never> };
  };
  const { body: whole } = await check({});
  expect(whole).toMatchObject({ figures: { strokes: 80, layers: 80 }, findings: [], passed: expect.any(Array) });
  const { status, body } = await check({ speedMmS: "fast" });
  expect(status).toBe(400);
  expect(body).toMatchObject({ error: { field: "sheet.speedMmS" } });
  const id = await made(request, {});
  for (const what of ["report", "proof"])
    expect((await request.get(`/api/sheets/${id}/${what}?printerId=1&spoolId=1`)).status()).toBe(200);
  const file = await request.post(`/api/sheets/${id}/file?printerId=1&spoolId=1`);
  expect(file.status()).toBe(201);
});
