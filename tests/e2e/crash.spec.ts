import { expect, test } from "@playwright/test";
import Database from "better-sqlite3";
import { ChildProcess, spawn } from "node:child_process";
import { request as plainRequest } from "node:http";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { slicedTube } from "./helpers";

const port = 4791;
const address = `http://127.0.0.1:${port}`;

/** A server of its own, so that it can be killed. */
async function start(data: string): Promise<ChildProcess> {
  const child = spawn(process.execPath, [".build/server.cjs"], {
    env: { ...process.env, NODE_ENV: "production", CUCHARA_DATA: data, HOST: "127.0.0.1", PORT: String(port) },
    stdio: "ignore",
    detached: true,
  });
  await expect(async () => expect((await fetch(`${address}/api/health`)).ok).toBe(true)).toPass({ timeout: 60_000 });
  return child;
}

function kill(child: ChildProcess): Promise<void> {
  return new Promise((resolve) => {
    child.once("exit", () => resolve());
    process.kill(-child.pid!, "SIGKILL");
  });
}

test("kill -9 during an upload and a save leaves the database whole", async () => {
  const data = mkdtempSync(join(tmpdir(), "cuchara-crash-"));
  let server = await start(data);
  try {
    const json = (body: unknown) => ({
      method: "POST",
      body: JSON.stringify(body),
      headers: { "Content-Type": "application/json" },
    });
    const printer = {
      name: "P",
      bedWidthMm: 200,
      bedDepthMm: 200,
      buildHeightMm: 200,
      startLines: "M109 S{{nozzleFirst}}",
      endLines: "M104 S0",
    };
    expect((await fetch(`${address}/api/printers`, json(printer))).status).toBe(201);

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
      fetch(`${address}/api/printers`, json({ ...printer, name: `P${i}` })).catch(() => null),
    );
    await new Promise((resolve) => setTimeout(resolve, 400));
    await kill(server);
    await Promise.all(saves);

    const database = new Database(join(data, "cuchara.db"));
    expect(database.pragma("integrity_check", { simple: true })).toBe("ok");
    expect(database.pragma("foreign_key_check")).toEqual([]);
    for (const { data: record } of database.prepare("SELECT data FROM printers").all() as { data: string }[]) {
      expect(JSON.parse(record)).toMatchObject({ bedWidthMm: 200 });
    }
    database.close();

    server = await start(data);
    expect(await (await fetch(`${address}/api/files`)).json()).toEqual([]);
    expect(((await (await fetch(`${address}/api/printers`)).json()) as unknown[]).length).toBeGreaterThan(0);
    const again = new Database(join(data, "cuchara.db"), { readonly: true });
    expect(again.prepare("SELECT count(*) AS n FROM file_chunks").get()).toEqual({ n: 0 });
    again.close();
  } finally {
    await kill(server);
    rmSync(data, { recursive: true, force: true });
  }
});

test("kill -9 during a job: the next start says what ran, where it stopped and how the printer was left", async ({
  page,
}) => {
  const data = mkdtempSync(join(tmpdir(), "cuchara-crash-"));
  let server = await start(data);
  const post = async (path: string, body: unknown) => {
    const text = typeof body === "string";
    const response = await fetch(`${address}${path}`, {
      method: "POST",
      body: text ? body : JSON.stringify(body),
      headers: { "Content-Type": text ? "text/plain" : "application/json" },
    });
    expect([path, response.status]).toEqual([path, expect.any(Number)]);
    expect(response.ok).toBe(true);
    return (await response.json()) as { id: number };
  };
  try {
    const printer = { name: "P", bedWidthMm: 200, bedDepthMm: 200, buildHeightMm: 200, startLines: "", endLines: "" };
    const printerId = (await post("/api/printers", printer)).id;
    await fetch(`${address}/api/bench`, {
      method: "PUT",
      body: JSON.stringify({ printerId }),
      headers: { "Content-Type": "application/json" },
    });
    const file = await post(
      "/api/files?name=tube.gcode",
      slicedTube(400, (index) => `; layer ${index}`),
    );
    await post("/api/link/connect", { printerId, transport: { kind: "simulated", rate: 50 } });
    await post("/api/link/job", { printerId, fileId: file.id });
    interface Running {
      job: { heightMm: number } | null;
    }
    await expect(async () => {
      const [link] = (await (await fetch(`${address}/api/link`)).json()) as Running[];
      expect(link.job!.heightMm).toBeGreaterThan(1);
    }).toPass({ timeout: 40_000 });
    await kill(server);

    server = await start(data);
    const [broken] = (await (await fetch(`${address}/api/link/jobs`)).json()) as {
      linesTaken: number;
      heightMm: number;
      told: { nozzleC: number[]; bedC: number };
    }[];
    expect(broken.heightMm).toBeGreaterThan(0.5);
    expect(broken.linesTaken).toBeGreaterThan(20);
    expect(broken.told).toMatchObject({ nozzleC: [210], bedC: 60 });
    // Nothing is resumed, nothing is even linked.
    expect(await (await fetch(`${address}/api/link`)).json()).toEqual([]);
    await page.goto(`${address}/printer/${printerId}`);
    const said = page.getByRole("alert").filter({ hasText: "did not end." });
    await expect(said).toContainText("“tube.gcode” on P did not end.");
    await expect(said).toContainText("nozzle at 210 °C, bed at 60 °C");
    await page.getByRole("button", { name: "I have seen it" }).click();
    await expect(page.getByText("did not end.")).toBeHidden();
  } finally {
    await kill(server);
    rmSync(data, { recursive: true, force: true });
  }
});
