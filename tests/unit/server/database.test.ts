import Database from "better-sqlite3";
import { spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { openDatabase } from "@/server/db/connection";
import { printerSchema } from "@/core/shelf/printer-schema";
import { shelfTable } from "@/server/db/shelf-table";
import { ladle } from "../helpers/demo";

let folder: string;
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), "cuchara-test-"))));
afterEach(() => rmSync(folder, { recursive: true, force: true }));
const path = () => join(folder, "test.db");

describe("migrations", () => {
  test("run once, in order, with WAL and foreign keys on", () => {
    const first = openDatabase(path());
    const version = first.pragma("user_version", { simple: true });
    expect(version).toBeGreaterThanOrEqual(3);
    expect(first.pragma("journal_mode", { simple: true })).toBe("wal");
    expect(first.pragma("foreign_keys", { simple: true })).toBe(1);
    first.close();
    const again = openDatabase(path());
    expect(again.pragma("user_version", { simple: true })).toBe(version);
    expect(again.prepare("SELECT count(*) AS n FROM bench").get()).toEqual({ n: 1 });
    again.close();
  });

  test("a trial needs its printer and spool", () => {
    const database = openDatabase(path());
    expect(() =>
      database
        .prepare(
          "INSERT INTO trials (kind, name, printer_id, spool_id, layer_height_mm, first_layer_height_mm, plan, fixed, created_at, updated_at) VALUES ('temperature', 'x', 99, 99, 0.2, 0.2, '{}', '{}', '', '')",
        )
        .run(),
    ).toThrow(/FOREIGN KEY/);
    expect(() =>
      database
        .prepare("INSERT INTO printers (name, data, created_at, updated_at) VALUES ('x', 'no json', '', '')")
        .run(),
    ).toThrow(/CHECK/);
    database.close();
  });

  test("chunks go with their file", () => {
    const database = openDatabase(path());
    database.prepare("INSERT INTO files (name, state, created_at) VALUES ('a', 'receiving', '')").run();
    database.prepare("INSERT INTO file_chunks (file_id, start_byte, bytes) VALUES (1, 0, x'00')").run();
    database.prepare("DELETE FROM files").run();
    expect(database.prepare("SELECT count(*) AS n FROM file_chunks").get()).toEqual({ n: 0 });
    database.close();
  });
});

describe("a table of the shelf", () => {
  test("add, change, remove, restore", () => {
    const database = openDatabase(path());
    const table = shelfTable("printers", printerSchema, () => database);
    const added = table.add(ladle);
    expect(added).toMatchObject({ ...ladle, id: 1 });
    expect(table.change(1, { ...ladle, name: "Ladle 221" })!.name).toBe("Ladle 221");
    expect(table.remove(1)).toBe(true);
    expect(table.remove(1)).toBe(false);
    expect(table.get(1)).toBeNull();
    expect(table.get(1, true)!.name).toBe("Ladle 221");
    expect(table.list()).toEqual([]);
    expect(table.change(1, ladle)).toBeNull();
    expect(table.restore(1)!.name).toBe("Ladle 221");
    expect(table.restore(7)).toBeNull();
    expect(table.list()).toHaveLength(1);
    database.close();
  });
});

test("kill -9 in the middle of saving leaves the database whole", async () => {
  openDatabase(path()).close();
  const script = `
    const Database = require(${JSON.stringify(require.resolve("better-sqlite3"))});
    const database = new Database(${JSON.stringify(path())});
    database.pragma("journal_mode = WAL");
    database.prepare("INSERT INTO files (name, state, created_at) VALUES ('a', 'receiving', '')").run();
    const insert = database.prepare("INSERT INTO file_chunks (file_id, start_byte, bytes) VALUES (1, ?, ?)");
    const bytes = Buffer.alloc(65536, 7);
    for (let i = 0; ; i++) { insert.run(i * bytes.length, bytes); if (i === 20) process.send("busy"); }`;
  const child = spawn(process.execPath, ["-e", script], { stdio: ["ignore", "ignore", "ignore", "ipc"] });
  await new Promise((resolve) => child.once("message", resolve));
  child.kill("SIGKILL");
  await new Promise((resolve) => child.once("exit", resolve));
  const database = new Database(path());
  expect(database.pragma("integrity_check", { simple: true })).toBe("ok");
  expect(database.prepare("SELECT count(*) AS n, min(length(bytes)) AS least FROM file_chunks").get()).toMatchObject({
    least: 65536,
  });
  database.close();
});
