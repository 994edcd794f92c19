import { APIRequestContext, expect, Page } from "@playwright/test";
import { request as plainRequest } from "node:http";
import { expectAccessible, makeTrial, test } from "./helpers";

interface JobAnswer {
  status: { state: string; heightMm: number };
  samples: { heightMm: number; nozzleC: number }[];
}

async function link(page: Page, printer: string, path: string, rate = "clock 200 ×"): Promise<void> {
  await page.goto(path);
  const end = page.getByRole("button", { name: "End the link" });
  const make = page.getByRole("button", { name: `Link ${printer}` });
  await expect(end.or(make)).toBeVisible();
  if (await end.isVisible()) await end.click();
  await expect(make).toBeVisible();
  await page.getByLabel("Clock of the simulated printer").selectOption(rate);
  await make.click();
  await expect(end).toBeVisible();
}

/** Answers a question; a press while the dialog still opens may be lost, as under a hand. */
async function answer(page: Page, name: string): Promise<void> {
  const dialog = page.getByRole("dialog");
  await expect(dialog).toBeVisible();
  await expect(async () => {
    if (await dialog.isVisible()) await dialog.getByRole("button", { name }).click({ timeout: 1000 });
    await expect(dialog).toBeHidden({ timeout: 1500 });
  }).toPass();
}

async function send(page: Page, lines: string): Promise<void> {
  await page.getByLabel("Lines to send").fill(lines);
  await page.getByLabel("Lines to send").press("Enter");
}

test("the whole loop: link, read, tune, save, switch off and on, print the tower, heaters off", async ({
  page,
  request,
}) => {
  test.setTimeout(150_000);
  const printerId = 1;
  await link(page, "Ladle 220", "/printer/1?view=values");

  // Read.
  await page.getByRole("button", { name: "Read the values" }).click();
  const row = page.getByRole("row", { name: /^Extruder steps/ });
  await expect(row).toContainText("405 steps/mm");

  // Tune: the simulated extruder really feeds 97.3 % of what it is told.
  await page.getByRole("link", { name: "Measure", exact: true }).click();
  await page.getByRole("link", { name: "Measure Extruder steps" }).click();
  await page.getByRole("button", { name: "Heat up" }).click();
  await expect(page.getByRole("button", { name: "It is hot" })).toBeVisible({ timeout: 30_000 });
  const measure = async (reading: RegExp) => {
    await page.getByRole("button", { name: "Do it" }).click();
    await expect(page.getByRole("button", { name: "Once more" })).toBeVisible({ timeout: 30_000 });
    await page.getByRole("button", { name: "Read the ruler" }).click();
    await page.getByRole("button", { name: "Take this reading" }).click();
    await expect(page.getByRole("region", { name: "Readings" }).getByRole("listitem").last()).toHaveText(reading);
  };
  await measure(/^97(\.\d)? mm/);
  await measure(/^97/);
  await expect(page.getByText("Two runs agree")).toBeVisible();
  await page.getByRole("button", { name: "Try it" }).click();
  await expect(page.getByText("The new value is set")).toBeVisible();
  await measure(/good/);
  await page.getByRole("button", { name: "Save in the printer" }).click();
  await expect(page.getByText(/^Saved and read back: Extruder steps/)).toBeVisible();
  await page.getByRole("button", { name: "Keep it", exact: true }).click();
  await expect(page.getByRole("status").filter({ hasText: /^Kept: Extruder steps/ })).toBeVisible();
  await page.getByRole("button", { name: "Switch the heater off" }).click();

  // Power off and on: what was saved is still there, within 1 % of the hidden truth.
  await page.goto("/printer/1?view=values");
  await page.getByRole("button", { name: "Off and on" }).click();
  await page.getByRole("button", { name: "Read the values" }).click();
  await expect(row).not.toContainText("405 steps/mm");
  const { snapshots } = (await (await request.get(`/api/link/values?printerId=${printerId}`)).json()) as {
    snapshots: { entries: { id: string; value: number }[] }[];
  };
  const steps = snapshots[0].entries.find(({ id }) => id === "extruderSteps")!.value;
  expect(Math.abs(steps / (405 / 0.973) - 1)).toBeLessThan(0.01);

  // Print the temperature tower to its end.
  const temperatures = [220, 212, 204];
  const trial = await makeTrial(request, {
    kind: "temperature",
    name: "Loop tower",
    printerId,
    spoolId: 1,
    plan: {
      baseHeightMm: 1,
      bands: temperatures.map((nozzleTemperature) => ({ heightMm: 7, settings: { nozzleTemperature } })),
    },
  });
  await page.goto(`/trials/${trial}`);
  await page.getByRole("button", { name: "Send it to Ladle 220" }).click();
  await page.getByRole("button", { name: "Start the job" }).click();
  const job = page.getByRole("region", { name: "This job" });
  await expect(job).toContainText(", runs", { timeout: 30_000 });
  await expect(page.getByRole("img", { name: "Nozzle, °C along the height" })).toBeVisible();
  await page.getByRole("combobox", { name: "Setting to change" }).waitFor();
  await page.getByLabel("Setting to change").selectOption("Flow factor");
  await page.getByRole("button", { name: "+2: to 102 %" }).click();
  await expect(page.getByText("flow 102 %").first()).toBeVisible();
  await expect(job).toContainText(", done", { timeout: 90_000 });

  const answer = (await (await request.get(`/api/link/job?printerId=${printerId}`)).json()) as JobAnswer;
  for (const [band, wanted] of temperatures.entries()) {
    const own = answer.samples.filter(({ heightMm }) => heightMm > 1 + band * 7 + 3 && heightMm < 1 + (band + 1) * 7);
    expect(own.length).toBeGreaterThan(3);
    expect(Math.abs(own[own.length - 1].nozzleC - wanted)).toBeLessThan(1.5);
  }
  await page.getByRole("tab", { name: "Console" }).click();
  await send(page, "M105");
  await expect(async () => {
    const links = (await (await request.get("/api/link")).json()) as {
      printerId: number;
      heat: { nozzles: { setC: number }[]; bed: { setC: number } };
    }[];
    const { heat } = links.find((one) => one.printerId === printerId)!;
    expect([heat.nozzles[0].setC, heat.bed.setC]).toEqual([0, 0]);
  }).toPass({ timeout: 10_000 });

  // What was nudged becomes a trial of its own.
  await page.getByRole("tab", { name: "Job" }).click();
  await page.getByRole("button", { name: "Keep it as a trial" }).click();
  await expect(page).toHaveURL(/\/trials\/\d+/);
  const kept = (await (await request.get(`/api/trials/${/(\d+)$/.exec(page.url())![1]}`)).json()) as {
    bands: { settings: Record<string, number> }[];
  };
  expect(kept.bands.at(-1)!.settings).toMatchObject({ nozzleTemperature: 204, flowFactor: 102 });
});

test("the console shows both ways unchanged, asks before danger, and goes on after a reload", async ({ page }) => {
  await link(page, "Whisk 300", "/printer/2");
  const talk = page.getByRole("log", { name: "Talk with the printer" });
  await send(page, "M115");
  await expect(talk).toContainText("FIRMWARE_NAME:Skillet 2.3.0");
  await expect(talk).toContainText("Asks what the firmware is and can do");
  await send(page, "M114 ; where?");
  await expect(talk).toContainText("M114 ; where?");
  await expect(talk).toContainText("X:0.00 Y:0.00 Z:0.00 E:0.00 Count X:0 Y:0 Z:0");

  // Heating is asked about once, with the reason; moving before homing too.
  await send(page, "M104 S200");
  const dialog = page.getByRole("dialog");
  await expect(dialog).toContainText("Heats the nozzle to 200 °C");
  await answer(page, "Do not send");
  await send(page, "G1 X10");
  await expect(dialog).toContainText("has not been homed");
  await answer(page, "Do not send");
  await expect(talk).not.toContainText("M104 S200");

  // Completion, history, several lines at once.
  const field = page.getByLabel("Lines to send");
  await field.fill("M50");
  await field.press("Tab");
  await expect(field).toHaveValue("M500 ");
  await field.fill("");
  await field.press("ArrowUp");
  await expect(field).toHaveValue("M114 ; where?");
  await field.fill("M110 N0\nM400\nM105");
  await page.getByRole("button", { name: "Send 3 lines" }).click();
  await expect(talk).toContainText("ok T:");
  await expectAccessible(page);

  await page.reload();
  await expect(talk).toContainText("FIRMWARE_NAME:Skillet 2.3.0");
  await expect(page.getByRole("button", { name: "End the link" })).toBeVisible();

  // The talk of a day can be read again.
  const ofDay = page.getByLabel("Talk of which day");
  await ofDay.focus();
  const today = await ofDay
    .locator("option")
    .filter({ hasText: / lines$/ })
    .first()
    .textContent();
  await ofDay.selectOption(today);
  await expect(page.getByRole("link", { name: "Save as text" })).toBeVisible();
  await expect(talk).toContainText("M114 ; where?");
  await ofDay.selectOption("Talk as it goes");

  // Emergency stop by key, from a field too.
  await field.focus();
  await page.keyboard.press("Control+Shift+X");
  await expect(page.getByText(/^Stopped: /)).toBeVisible();
  await page.getByRole("button", { name: "Off and on" }).click();
  await expect(page.getByText("Listens")).toBeVisible();

  // A pulled cable is told, and what waits is kept.
  await page.getByLabel("Clock of the simulated printer").selectOption("real time");
  await send(page, "G28\nM114\nM115");
  await expect(page.getByText(/line(s)? wait/)).toBeVisible();
  await page.getByRole("button", { name: "Pull the cable" }).click();
  await expect(page.getByText(/The link is lost/).first()).toBeVisible({ timeout: 3000 });
  await expect(page.getByText(/Not sent: M114 · M115/).first()).toBeVisible();
});

test("a value is staged, asked about, tried, put back; a cancelled job leaves everything cold", async ({
  page,
  request,
}) => {
  await link(page, "Whisk 300", "/printer/2?view=values");
  await page.getByRole("button", { name: "Read the values" }).click();
  await page.getByRole("button", { name: "Change Acceleration, printing" }).click();
  const staged = page.getByRole("region", { name: "Staged" });
  const field = staged.getByLabel("New Acceleration, printing");
  await field.fill("900000");
  await expect(staged).toContainText("At most");
  await field.fill("3000");
  await expect(staged).toContainText("M204 P3000");
  await expect(staged).toContainText("100 % more");
  await staged.getByRole("button", { name: "Try it" }).click();
  await answer(page, "Yes, try it");
  const row = page.getByRole("row", { name: /^Acceleration, printing/ });
  await expect(row).toContainText("3000 mm/s²");
  await expect(row).toContainText("1500");
  await expectAccessible(page);
  await page.getByRole("button", { name: "Put it back" }).click();
  await expect(row).toContainText("1500 mm/s²");

  const trial = await makeTrial(request, { kind: "flow", name: "To be cancelled", printerId: 2, spoolId: 1 });
  await page.goto(`/printer/2?view=job&trial=${trial}`);
  await page.getByRole("button", { name: "Start the job" }).click();
  const job = page.getByRole("region", { name: "This job" });
  await expect(job).toContainText(/Layer\s*\d+ of/, { timeout: 40_000 });
  await page.getByRole("button", { name: "Pause" }).click();
  await expect(job).toContainText(", paused");
  await page.getByRole("button", { name: "Resume" }).click();
  await expect(job).toContainText(", runs");
  await expectAccessible(page);
  await page.getByRole("button", { name: "Cancel the job" }).click();
  await answer(page, "Cancel the job");
  await expect(job).toContainText(", cancelled");
  await page.getByRole("tab", { name: "Heat" }).click();
  await expect(page.getByRole("region", { name: "Nozzle" })).toContainText("off", { timeout: 20_000 });
  await expect(page.getByRole("region", { name: "Bed" })).toContainText("off");
  await expectAccessible(page);
});

test("no other site can move a printer", async ({ baseURL, request }) => {
  const port = Number(new URL(baseURL!).port);
  const attempt = (headers: Record<string, string>, method = "POST", path = "/api/link/lines") =>
    new Promise<number>((resolve, reject) => {
      const asked = plainRequest(
        { host: "127.0.0.1", port, path, method, headers: { Host: `127.0.0.1:${port}`, ...headers } },
        (response) => {
          response.resume();
          resolve(response.statusCode ?? 0);
        },
      );
      asked.on("error", reject);
      asked.end(method === "POST" ? JSON.stringify({ printerId: 1, lines: ["G28"] }) : undefined);
    });
  await request.post("/api/link/connect", { data: { printerId: 1, transport: { kind: "simulated", rate: 50 } } });
  const json = { "Content-Type": "application/json" };
  const before = await lastSent(request);
  for (const path of [
    "/api/link/lines",
    "/api/link/stop",
    "/api/link/connect",
    "/api/link/job",
    "/api/link/values/try",
    "/api/measure/act",
  ]) {
    expect([path, await attempt({ ...json, Origin: "http://evil.example" }, "POST", path)]).toEqual([path, 403]);
    expect([path, await attempt({ ...json, Host: "evil.example" }, "POST", path)]).toEqual([path, 403]);
    // What a form of another site can send without asking: no JSON, no fitting method.
    expect([path, await attempt({ "Content-Type": "text/plain" }, "POST", path)]).toEqual([path, 415]);
  }
  expect(await attempt(json, "GET", "/api/link/lines")).toBe(405);
  expect(await attempt({ Origin: "http://evil.example" }, "GET", "/api/link/events?printerId=1&heat=1")).toBe(403);
  expect(await lastSent(request)).toBe(before);
  expect(await attempt(json)).toBe(202);
});

async function lastSent(request: APIRequestContext): Promise<string> {
  const today = new Date();
  const day = `${today.getFullYear()}-${String(today.getMonth() + 1).padStart(2, "0")}-${String(today.getDate()).padStart(2, "0")}`;
  const text = await (await request.get(`/api/link/log?printerId=1&day=${day}`)).text();
  return text.split("\n").findLast((line) => line.includes(" > ")) ?? "";
}

test("a job is made ready though its page is left, draws what it prints, leads to Read, and the next one asks whether the bed is clear", async ({
  page,
  request,
}) => {
  const id = await makeTrial(request, { kind: "temperature", printerId: 1, spoolId: 1 });
  const planOf = async () => ((await (await request.get(`/api/trials/${id}`)).json()) as { plan: Plan }).plan;
  interface Plan {
    baseHeightMm: number;
    bands: { heightMm: number; settings: { nozzleTemperature: number } }[];
  }
  const two = (await planOf()).bands.slice(0, 2);
  await request.put(`/api/trials/${id}`, { data: { plan: { baseHeightMm: 0.6, bands: two } } });
  await link(page, "Ladle 220", `/printer/1?view=job&trial=${id}`, "clock 500 ×");
  const start = page.getByRole("button", { name: "Start the job" });
  // The page is left as soon as the press is on its way.
  const pressed = page.waitForRequest((asked) => asked.url().endsWith("/api/link/job") && asked.method() === "POST");
  await start.click();
  await pressed;
  await page.goto("/bench");
  interface Answer {
    status: { sourceId: number; state: string };
    trial: { bands: unknown[] };
  }
  const job = async () => (await (await request.get("/api/link/job?printerId=1")).json()) as Answer | null;
  await expect(async () => expect((await job())?.status.sourceId).toBe(id)).toPass({ timeout: 30_000 });
  // The trial goes on changing; what is printed is what was sent.
  await request.put(`/api/trials/${id}`, { data: { plan: { baseHeightMm: 0.6, bands: [two[0]] } } });
  expect((await job())!.trial.bands).toHaveLength(2);
  await expect(async () => expect((await job())!.status.state).toBe("done")).toPass({ timeout: 60_000 });

  await page.goto(`/printer/1?view=job&trial=${id}`);
  await expect(
    page.getByRole("button", { name: "Read the piece" }).or(page.getByRole("link", { name: "Read the piece" })),
  ).toBeVisible();
  await start.click();
  const dialog = page.getByRole("dialog");
  await expect(dialog).toContainText("Is the bed clear?");
  await expect(dialog.getByRole("button", { name: "Not yet" })).toBeFocused();
  await answer(page, "Not yet");
  expect((await job())!.status.state).toBe("done");
  await page.getByText("Read the piece").click();
  await expect(page).toHaveURL(/step=read/);
});
