/**
 * The firmware story, on every dialect that stores: a value is saved, a print leaves another one behind, something else is saved; switched off
 * and on, the saved one is still there, and the next file lets it be. Told by what the printer answers to its own question for values.
 */
import { APIRequestContext, expect, Page } from "@playwright/test";
import { test } from "./helpers";

/** One printer of the demo a dialect; how its printing acceleration is set, asked for, and what else is changed beside it. */
const stories = [
  {
    printer: "Ladle 220",
    set: (a: number) => `M204 P${a}`,
    said: /M204 P1100/,
    value: "Acceleration, printing",
    other: "Home offset X",
  },
  {
    printer: "Whisk 300",
    set: (a: number) => `M204 P${a}`,
    said: /M204 P1100/,
    value: "Acceleration, printing",
    other: "Home offset X",
  },
  {
    printer: "Twin Ladle",
    set: (a: number) => `M204 P${a}`,
    said: /M204 P1100/,
    value: "Acceleration, printing",
    other: "Home offset X",
  },
  {
    printer: "Old Kettle",
    set: (a: number) => `M204 P${a}`,
    said: /M204 P1100/,
    value: "Acceleration, printing",
    other: "Home offset X",
  },
  {
    printer: "Sieve 180",
    set: (a: number) => `SET_VELOCITY_LIMIT ACCEL=${a}`,
    said: /ACCEL=1100/,
    value: "Acceleration",
    other: "Pressure advance",
  },
];

interface Record {
  id: number;
  name: string;
  printAccelerationMmS2: number;
  firmwareOwn: { [field: string]: string };
}

async function changeTo(page: Page, value: string, to: string): Promise<void> {
  await page.getByRole("button", { name: `Change ${value}`, exact: true }).click();
  const field = page
    .getByRole("region", { name: "Staged" })
    .getByRole("textbox", { name: new RegExp(`^New ${value}`) });
  await field.fill(to);
  await field.press("Tab");
  await page.getByRole("button", { name: "Try it" }).click();
  const sure = page.getByRole("dialog").getByRole("button", { name: "Yes, try it" });
  const done = page.getByText(/ now, read back\.$/).last();
  await expect(sure.or(done).first()).toBeVisible();
  if (await sure.isVisible()) await sure.click();
  await expect(done).toBeVisible();
}

/** A file sliced elsewhere, that sets an acceleration of its own and does not set it back. */
async function printOther(request: APIRequestContext, printerId: number, line: string): Promise<void> {
  await request.put("/api/bench", { data: { printerId } });
  const square = ["G1 X60 Y50 E1 F3000", "G1 X60 Y60 E1", "G1 X50 Y60 E1", "G1 X50 Y50 E1"];
  const text = [
    "M104 S200",
    "G28",
    "M109 S200",
    "G90",
    "M83",
    line,
    "G0 X50 Y50 Z0.2",
    ...square,
    "M104 S0",
    "M84",
  ].join("\n");
  const { id } = (await (
    await request.post("/api/files?name=other.gcode", { data: Buffer.from(`${text}\n`) })
  ).json()) as { id: number };
  const started = await request.post("/api/link/job", { data: { printerId, fileId: id } });
  expect(started.status(), await started.text()).toBe(201);
  await expect(async () => {
    const job = (await (await request.get(`/api/link/job?printerId=${printerId}`)).json()) as {
      status: { state: string };
    };
    expect(job.status.state).toBe("done");
  }).toPass({ timeout: 40_000 });
}

for (const { printer, set, said, value, other } of stories) {
  test(`${printer}: what is saved stays saved, and files let it be`, async ({ page, request }) => {
    const shelf = (await (await request.get("/api/printers")).json()) as Record[];
    const { id: _, ...given } = shelf.find(({ name }) => name === printer)! as Record & { [field: string]: unknown };
    const { id } = (await (
      await request.post("/api/printers", {
        data: { ...given, name: `${printer} story`, printAccelerationMmS2: 1000, travelAccelerationMmS2: 1000 },
      })
    ).json()) as { id: number };
    const record = async () => (await (await request.get(`/api/printers/${id}`)).json()) as Record;
    const linked = await request.post("/api/link/connect", {
      data: { printerId: id, transport: { kind: "simulated", rate: 500 } },
    });
    expect(linked.status()).toBe(201);

    await page.goto(`/printer/${id}?view=values`);
    await page.getByRole("button", { name: "Read the values" }).click();
    await changeTo(page, value, "1100");
    await page.getByRole("button", { name: "Save in the printer" }).click();
    // The record on the shelf differs now; it takes the value over in the same press.
    const dialog = page.getByRole("dialog");
    await expect(dialog.getByText(/1000 → 1100/).first()).toBeVisible();
    await dialog.getByRole("button", { name: "Save in the printer" }).click();
    await expect(page.getByText(/^Saved and read back: .*1100/)).toBeVisible();
    expect(await record()).toMatchObject({ printAccelerationMmS2: 1100 });
    expect(Object.keys((await record()).firmwareOwn)).toContain("printAccelerationMmS2");

    await printOther(request, id, set(1000));
    await page.reload();
    await page.getByRole("button", { name: "Read the values" }).click();
    await changeTo(page, other, other === "Pressure advance" ? "0.03" : "0.1");
    await page.getByRole("button", { name: "Save in the printer" }).click();
    await expect(dialog.getByText(/left by the print “other.gcode”/)).toBeVisible();
    await expect(dialog.getByRole("checkbox", { name: /^keep .*1000/ })).not.toBeChecked();
    await dialog.getByRole("button", { name: "Save in the printer" }).click();
    await expect(page.getByText(/^Saved and read back: .*1100/).last()).toBeVisible();

    await page.getByRole("button", { name: "Off and on" }).click();
    await page.getByRole("button", { name: "Read the values" }).click();
    const row = page.getByRole("row").filter({ hasText: said });
    await expect(row.first()).toContainText("1100");

    // The next file says nothing of it.
    const spools = (await (await request.get("/api/spools")).json()) as { id: number }[];
    const trial = (await (
      await request.post("/api/trials", { data: { kind: "temperature", printerId: id, spoolId: spools[0].id } })
    ).json()) as { id: number };
    const program = await (await request.get(`/api/trials/${trial.id}/gcode`)).text();
    expect(program.split("\n").filter((line) => /^(M20[45]|M566|M900|M572|SET_)/.test(line))).toEqual([]);
    await request.post("/api/link/disconnect", { data: { printerId: id } });
    await request.put("/api/bench", { data: { printerId: 1 } });
    await request.delete(`/api/trials/${trial.id}`);
    await request.delete(`/api/printers/${id}`);
  });
}
