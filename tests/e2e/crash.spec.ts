import { expect } from "@playwright/test";
import Database from "better-sqlite3";
import { request as plainRequest } from "node:http";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { freePort, good, OwnProgram, plainPrinter, startProgram } from "../../scripts/own-program.cjs";
import { slicedTube, test } from "./helpers";

let data: string;
let port: number;
let program: OwnProgram;

/** Starts on the same data and the same address each time. */
const start = async () => (program = await startProgram(data, { port }));
const list = async (path: string) => good(await program.ask("GET", path)) as unknown as unknown[];

test.beforeEach(async () => {
  data = mkdtempSync(join(tmpdir(), "cuchara-crash-"));
  port = await freePort();
  await start();
});
test.afterEach(async () => {
  await program.kill();
  rmSync(data, { recursive: true, force: true });
});

test("kill -9 during an upload and a save leaves the database whole", async () => {
  good(await program.ask("POST", "/api/printers", plainPrinter));
  // An upload that never ends, and saves all the while.
  const upload = plainRequest({
    host: "127.0.0.1",
    port,
    path: "/api/files?name=half.gcode",
    method: "POST",
    headers: { "Content-Length": 50_000_000 },
  });
  upload.on("error", () => undefined);
  for (let i = 0; i < 12; i++) upload.write(Buffer.alloc(1 << 20, "G1 X1 Y1 E1\n"));
  const saves = Array.from({ length: 40 }, (_, i) =>
    program.ask("POST", "/api/printers", { ...plainPrinter, name: `P${i}` }).catch(() => null),
  );
  await new Promise((resolve) => setTimeout(resolve, 400));
  await program.kill();
  await Promise.all(saves);

  const database = new Database(join(data, "cuchara.db"));
  expect(database.pragma("integrity_check", { simple: true })).toBe("ok");
  expect(database.pragma("foreign_key_check")).toEqual([]);
  for (const { data: record } of database.prepare("SELECT data FROM printers").all() as { data: string }[]) {
    expect(JSON.parse(record)).toMatchObject({ bedWidthMm: 220 });
  }
  database.close();

  await start();
  expect(await list("/api/files")).toEqual([]);
  expect((await list("/api/printers")).length).toBeGreaterThan(0);
  const again = new Database(join(data, "cuchara.db"), { readonly: true });
  expect(again.prepare("SELECT count(*) AS n FROM file_chunks").get()).toEqual({ n: 0 });
  again.close();
});

test("kill -9 during a job: the next start says what ran, where it stopped and how the printer was left", async ({
  page,
}) => {
  const printer = { ...plainPrinter, startLines: "", endLines: "" };
  const printerId = good(await program.ask("POST", "/api/printers", printer)).id;
  good(await program.ask("PUT", "/api/bench", { printerId }));
  const tube = slicedTube(400, (index) => `; layer ${index}`);
  const file = good(await program.ask("POST", "/api/files?name=tube.gcode", tube));
  good(await program.ask("POST", "/api/link/connect", { printerId, transport: { kind: "simulated", rate: 50 } }));
  good(await program.ask("POST", "/api/link/job", { printerId, fileId: file.id }));
  await expect(async () => {
    const [link] = (await list("/api/link")) as { job: { heightMm: number } | null }[];
    expect(link.job!.heightMm).toBeGreaterThan(1);
  }).toPass({ timeout: 40_000 });
  await program.kill();

  await start();
  const [broken] = (await list("/api/link/jobs")) as {
    linesTaken: number;
    heightMm: number;
    told: { nozzleC: number[]; bedC: number };
  }[];
  expect(broken.heightMm).toBeGreaterThan(0.5);
  expect(broken.linesTaken).toBeGreaterThan(20);
  expect(broken.told).toMatchObject({ nozzleC: [210], bedC: 60 });
  // Nothing is resumed, nothing is even linked.
  expect(await list("/api/link")).toEqual([]);
  await page.goto(`${program.address}/printer/${printerId}`);
  const said = page.getByRole("alert").filter({ hasText: "did not end." });
  await expect(said).toContainText("“tube.gcode” on P did not end.");
  await expect(said).toContainText("nozzle at 210 °C, bed at 60 °C");
  await page.getByRole("button", { name: "I have seen it" }).click();
  await expect(page.getByText("did not end.")).toBeHidden();
});
