import { expect, test } from "@playwright/test";
import Database from "better-sqlite3";
import { ChildProcess, spawn } from "node:child_process";
import { request as plainRequest } from "node:http";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

const port = 4791;
const address = `http://127.0.0.1:${port}`;

/** A server of its own, so that it can be killed. */
async function start(data: string): Promise<ChildProcess> {
  const child = spawn(
    process.execPath,
    ["node_modules/next/dist/bin/next", "start", "-H", "127.0.0.1", "-p", String(port)],
    {
      env: { ...process.env, CUCHARA_DATA: data, HOST: "127.0.0.1", PORT: String(port), NEXT_TELEMETRY_DISABLED: "1" },
      stdio: "ignore",
      detached: true,
    },
  );
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
