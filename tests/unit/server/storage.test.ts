/** What is wrong with the database is said in a sentence; nothing is written over, and nothing acknowledged is lost. */
import Database from "better-sqlite3";
import { copyFileSync, mkdtempSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { REMOVED_DAYS } from "@/server/db/bin";
import { closeStore, database, databaseTrouble } from "@/server/db/connection";
import { devices } from "@/server/db/devices";
import { files } from "@/server/db/files";
import { dayOf, KeptEvent, linkEvents } from "@/server/db/link-events";
import { jobs } from "@/server/db/jobs";
import { migrate, newestVersion } from "@/server/db/migrate";
import { kept, keptSettings } from "@/server/db/kept";
import { writePreferences } from "@/server/db/preferences";
import { printers as shelf } from "@/server/db/printers";
import { spools } from "@/server/db/spools";
import { unreadableRecords } from "@/server/db/rows";
import { KEPT_ENDS, tidySlices, WHOLE_JOBS } from "@/server/db/tidy";
import { storageTrouble } from "@/server/db/trouble";
import { checkBackup, readyBackup } from "@/server/db/check-backup";
import { ladle, saffron } from "../helpers/demo";

let folder: string;
const path = () => join(folder, "cuchara.db");
/** A failure is remembered for a second, so that a broken database is not opened anew with every request. */
const forget = () => delete (globalThis as { cucharaTrouble?: unknown }).cucharaTrouble;

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "cuchara-storage-"));
  process.env.CUCHARA_DATA = folder;
  forget();
});
afterEach(() => {
  closeStore();
  rmSync(folder, { recursive: true, force: true });
});

describe("a database that cannot be used", () => {
  test.each([
    ["random bytes", Buffer.from(Array.from({ length: 8192 }, (_, i) => (i * 7919) % 251))],
    ["text", Buffer.from("this is not a database, it is a shopping list ".repeat(100))],
  ])("%s: it is damaged, and stays as it is", (_, bytes) => {
    writeFileSync(path(), bytes);
    expect(databaseTrouble()).toMatch(/is damaged\. It was left unchanged/);
    expect(readFileSync(path()).equals(bytes)).toBe(true);
  });

  test("one of a newer program is refused and not written to", () => {
    const newer = new Database(path());
    newer.exec("CREATE TABLE printers (something TEXT)");
    newer.pragma("user_version = 99");
    newer.close();
    const before = readFileSync(path());
    expect(databaseTrouble()).toMatch(new RegExp(`newer Cuchara \\(version 99, this one knows ${newestVersion()}\\)`));
    expect(readFileSync(path()).equals(before)).toBe(true);
  });

  test("a folder that another program works in is left to it", () => {
    const other = new Database(join(folder, "in-use.lock"));
    other.exec("BEGIN EXCLUSIVE");
    expect(databaseTrouble()).toMatch(/Another Cuchara is running on the data in/);
    other.close();
    forget();
    expect(databaseTrouble()).toBeNull();
  });

  test("held by another writer it refuses soon, and takes the next one", () => {
    shelf.add(ladle);
    const other = new Database(path());
    other.exec("BEGIN IMMEDIATE");
    let refused: unknown;
    try {
      shelf.add(ladle);
    } catch (error) {
      refused = error;
    }
    expect(storageTrouble(refused)).toMatch(/held by another program, so nothing was stored/);
    expect(shelf.list()).toHaveLength(1);
    other.exec("ROLLBACK");
    other.close();
    expect(shelf.add(ladle).id).toBe(2);
  });
});

test("behind a clean end the one file holds everything", () => {
  for (let i = 0; i < 20; i++) shelf.add({ ...ladle, name: `Printer ${i}` });
  closeStore();
  copyFileSync(path(), join(folder, "copy.db"));
  const copy = new Database(join(folder, "copy.db"), { readonly: true });
  expect(copy.prepare("SELECT COUNT(*) AS n FROM printers").get()).toEqual({ n: 20 });
  copy.close();
});

test("what is acknowledged is on the disk before it is (SQLite, PRAGMA synchronous = FULL)", () => {
  expect(database().pragma("synchronous", { simple: true })).toBe(2);
});

test("one record that cannot be read does not take the others with it", () => {
  const [first, second] = [shelf.add(ladle), shelf.add(ladle)];
  database().prepare("UPDATE printers SET data = '{\"name\": 5}' WHERE id = ?").run(first.id);
  expect(shelf.list().map(({ id }) => id)).toEqual([second.id]);
  expect(() => shelf.get(first.id)).toThrow(/printer 1 cannot be read/);
  expect(unreadableRecords()).toContainEqual(expect.stringMatching(/printer 1 cannot be read/));
});

test("a name of the time when every letter was taken is read as one that can be", () => {
  const { id } = shelf.add(ladle);
  database()
    .prepare("UPDATE printers SET data = json_set(data, '$.name', 'two' || char(10) || 'lines') WHERE id = ?")
    .run(id);
  expect(shelf.get(id)!.name).toBe("two lines");
});

describe("versions", () => {
  test("count changes; a change of what was not seen is refused with the record as it is", () => {
    const { id, version } = shelf.add(ladle);
    expect(version).toBe(1);
    expect(shelf.change(id, { ...ladle, name: "One" }, 1)!.version).toBe(2);
    expect(() => shelf.change(id, { ...ladle, name: "Two" }, 1)).toThrow(
      expect.objectContaining({
        kind: "conflict",
        details: { current: expect.objectContaining({ id, version: 2, name: "One" }) },
      }),
    );
    expect(shelf.change(id, { ...ladle, name: "Three" })!).toMatchObject({ name: "Three", version: 3 });
  });

  test("a file that is being received cannot be removed", () => {
    const id = files.begin("half.gcode", null);
    expect(files.remove(id)).toBe(false);
    expect(files.finish(id, 5, { report: "{}", summary: {} as never })).toBe(true);
    expect(files.get(id)).toMatchObject({ id, version: 1 });
  });
});

describe("what a backup must be", () => {
  test("whole, of this program, and not of a newer one", () => {
    shelf.add(ladle);
    closeStore();
    expect(checkBackup(path())).toEqual({ ok: true, value: newestVersion() });
    const whole = readFileSync(path());
    const at = (name: string) => join(folder, name);
    writeFileSync(at("half.db"), whole.subarray(0, whole.length / 2));
    writeFileSync(
      at("flipped.db"),
      Buffer.concat([whole.subarray(0, 4096), Buffer.alloc(300, 255), whole.subarray(4396)]),
    );
    writeFileSync(at("text.db"), "no database at all");
    new Database(at("other.db")).exec("CREATE TABLE x (y)").close();
    for (const name of ["half.db", "flipped.db", "text.db", "other.db", "missing.db"])
      expect([name, checkBackup(at(name)).ok]).toEqual([name, false]);
  });

  // What integrity_check does not see (https://sqlite.org/pragma.html#pragma_integrity_check): it looks at pages, not at what they are for.
  test.each([
    ["a newer version", "PRAGMA user_version = 999", /newer Cuchara/],
    ["a table less", "DROP TABLE runs", /its table runs is missing/],
    ["an index less", "DROP INDEX link_events_typed", /its index link_events_typed is missing/],
    ["a column more", "ALTER TABLE trials ADD COLUMN extra TEXT", /its table trials is another/],
    ["a table more", "CREATE TABLE extra (a)", /table extra that does not belong there/],
    ["a view more", "CREATE VIEW extra AS SELECT * FROM trials", /view extra that does not belong there/],
    [
      "a trigger of its own",
      "CREATE TRIGGER extra AFTER UPDATE ON trials BEGIN DELETE FROM trials; END",
      /trigger extra that does not belong there/,
    ],
    ["records that name missing ones", "UPDATE bench SET printer_id = 99", /not whole/],
  ])("%s is refused", (_, sql, sentence) => {
    shelf.add(ladle);
    database();
    closeStore();
    const backup = new Database(path());
    backup.pragma("foreign_keys = OFF");
    backup.exec(sql);
    backup.close();
    expect(checkBackup(path())).toMatchObject({ ok: false, message: expect.stringMatching(sentence) as string });
  });

  test("of every version there was, it is taken and brought up to this one, but lets no device in", () => {
    devices.add("Own phone", "hash-of-own", "mark");
    const now = devices.rows();
    closeStore();
    for (let version = 1; version <= newestVersion(); version++) {
      const old = join(folder, `old-${version}.db`);
      const made = new Database(old);
      migrate(made, version);
      if (version >= 13) made.exec("INSERT INTO devices VALUES (7, 'Forged', 'hash-of-other', 1, '', '', 'all')");
      made.close();
      expect([version, checkBackup(old)]).toEqual([version, { ok: true, value: version }]);
      readyBackup(old, now);
      expect(checkBackup(old)).toEqual({ ok: true, value: newestVersion() });
      const ready = new Database(old);
      expect(ready.prepare("SELECT name, token_hash, may FROM devices").all()).toEqual([
        { name: "Own phone", token_hash: "hash-of-own", may: "mark" },
      ]);
      ready.close();
    }
  });
});

describe("a backup that is put in place", () => {
  /** A database with a printer of this name, closed, at this file's name. */
  const made = (name: string, printer: string) => {
    const file = new Database(join(folder, name));
    migrate(file);
    file
      .prepare("INSERT INTO printers (name, data, created_at, updated_at) VALUES (?, ?, '', '')")
      .run(printer, JSON.stringify({ ...ladle, name: printer }));
    file.close();
  };
  const names = () => shelf.list().map(({ name }) => name);
  const rest = () => readdirSync(folder).filter((name) => name.startsWith("before-") || name.startsWith("checked-"));

  test("and one that was cut between the two renames is finished at the next start", () => {
    made("before-2026-01-01T00.00.00.db", "Old");
    made("checked-2026-01-01T00.00.00.db", "New");
    expect(names()).toEqual(["New"]);
    expect(rest()).toEqual(["before-2026-01-01T00.00.00.db"]);
  });

  test("what the one before left in its log is not taken for the new one's", () => {
    made("cuchara.db", "Old");
    const open = new Database(path());
    open.pragma("journal_mode = WAL");
    open.exec("DELETE FROM printers");
    copyFileSync(`${path()}-wal`, join(folder, "log"));
    open.close();
    renameSync(path(), join(folder, "before-2026-01-01T00.00.00.db"));
    renameSync(join(folder, "log"), `${path()}-wal`);
    made("checked-2026-01-01T00.00.00.db", "New");
    expect(names()).toEqual(["New"]);
  });

  test("one that does not pass, left by an earlier version, gives way to what was there before", () => {
    made("before-2026-01-01T00.00.00.db", "Old");
    made("restoring-7.db", "Forged");
    const forged = new Database(join(folder, "restoring-7.db"));
    forged.exec("DROP TABLE runs");
    forged.close();
    expect(names()).toEqual(["Old"]);
  });

  test("one that was cut before is as though it had not begun", () => {
    made("cuchara.db", "Old");
    made("checked-2026-01-01T00.00.00.db", "New");
    made("receiving-7.db", "Half");
    expect(names()).toEqual(["Old"]);
    expect(readdirSync(folder).filter((name) => /^(checked|receiving)/.test(name))).toEqual([]);
  });
});

describe("the talk is kept thin", () => {
  const now = new Date("2026-11-20T12:00:00").getTime();
  const hour = 3_600_000;
  let nextId = 1;
  const say = (atMs: number, more: Partial<KeptEvent> = {}): KeptEvent => ({
    id: nextId++,
    printerId: 1,
    atMs,
    direction: "out",
    source: "console",
    text: "M105",
    jobId: null,
    ...more,
  });
  const tidy = () => {
    let slices = 0;
    for (const _ of tidySlices(now)) slices++;
    return slices;
  };
  beforeEach(() => (nextId = 1));

  test("temperatures: all of the last hour, one a minute for a day, then one in ten minutes", () => {
    const every = (fromH: number, toH: number, stepMs: number) => {
      const events: KeptEvent[] = [];
      for (let at = now - fromH * hour; at < now - toH * hour; at += stepMs) events.push(say(at, { source: "watch" }));
      return events;
    };
    linkEvents.addAll([...every(30, 28, 2000), ...every(5, 3, 2000), ...every(0.5, 0, 2000)]);
    tidy();
    const left = linkEvents.last(1, 100_000, true);
    const between = (fromH: number, toH: number) =>
      left.filter(({ atMs }) => atMs >= now - fromH * hour && atMs < now - toH * hour).length;
    expect([between(30, 28), between(5, 3), between(0.5, 0)]).toEqual([12, 120, 900]);
    const counted = linkEvents.days(1).reduce((sum, { lines }) => sum + lines, 0);
    expect(counted).toBe(left.length);
  });

  test("old jobs: their ends and everything unusual", () => {
    const ids = Array.from({ length: WHOLE_JOBS + 1 }, () => {
      const id = jobs.begin({ printerId: 1, source: "trial", sourceId: 1, name: "x", totalLines: 500 });
      const told = jobs.get(id)!.told;
      jobs.end(id, { state: "done", linesTaken: 500, heightMm: 9, told }, "");
      const lines: KeptEvent[] = [];
      for (let i = 0; i < 500; i++) {
        lines.push(say(now - 2 * hour, { source: "job", jobId: id, text: `G1 X${i}` }));
        const text = i === 250 ? "echo:something unusual" : "ok";
        lines.push(say(now - 2 * hour, { source: "job", jobId: id, direction: "in", text }));
      }
      linkEvents.addAll(lines);
      return id;
    });
    tidy();
    const count = (id: number) =>
      (database().prepare("SELECT COUNT(*) AS n FROM link_events WHERE job_id = ?").get(id) as { n: number }).n;
    expect(ids.map(count)).toEqual([2 * KEPT_ENDS + 1, 1000, 1000, 1000]);
    expect(tidy()).toBeLessThan(20);
  });

  test("what is older than the user's own time goes, and its day with it", () => {
    linkEvents.addAll([say(now - 40 * 24 * hour), say(now - 20 * 24 * hour), say(now)]);
    writePreferences({ talkDays: 30 });
    tidy();
    expect(linkEvents.days(1).map(({ day }) => day)).toEqual([dayOf(now), dayOf(now - 20 * 24 * hour)]);
    expect(linkEvents.ofDay(1, dayOf(now), 0, 10)).toHaveLength(1);
  });

  test("removed files go after their time, and the disk gets their room back", () => {
    const id = files.begin("big.gcode", null);
    for (let i = 0; i < 24; i++) files.append(id, i << 20, Buffer.alloc(1 << 20, "G1 X1\n"));
    files.finish(id, 24 << 20, { report: "{}", summary: {} as never });
    files.remove(id);
    tidy();
    expect(files.restore(id)).not.toBeNull();
    files.remove(id);
    database()
      .prepare("UPDATE files SET removed_at = ? WHERE id = ?")
      .run(new Date(now - (REMOVED_DAYS + 1) * 24 * hour).toISOString(), id);
    const pages = () => database().pragma("page_count", { simple: true }) as number;
    const before = pages();
    tidy();
    expect(files.restore(id)).toBeNull();
    expect(pages()).toBeLessThan(before / 10);
  });
});

describe("kept values", () => {
  test("of several tried together all are kept or none; the newest counts, and one taken back can be put back", () => {
    const about = { printerId: shelf.add(ladle).id, spoolId: spools.add(saffron).id, trialId: null };
    const [warm] = kept.addAll({ nozzleTemperature: 210, fan: 60 }, about);
    expect(keptSettings(about.printerId, about.spoolId)).toEqual({ nozzleTemperature: 210, fan: 60 });
    // A foreign key that leads nowhere fails the second, and with it the first.
    const nowhere = { ...about, trialId: 999 };
    expect(() => kept.addAll({ nozzleTemperature: 230, fan: 20 }, nowhere)).toThrow(/FOREIGN KEY/);
    expect(keptSettings(about.printerId, about.spoolId)).toEqual({ nozzleTemperature: 210, fan: 60 });
    const hotter = kept.add({ ...about, setting: "nozzleTemperature", value: 220 });
    expect(kept.all().map(({ value }) => value)).toEqual([220, 60]);
    kept.remove(hotter.id);
    expect(kept.all().map(({ value }) => value)).toEqual([60, 210]);
    expect(kept.restore(hotter.id)).toMatchObject({ value: 220, version: hotter.version + 2 });
    // Nothing to put back: nothing changes.
    expect(kept.restore(warm.id)).toMatchObject({ version: warm.version });
    expect(kept.restore(4711)).toBeNull();
  });
});
