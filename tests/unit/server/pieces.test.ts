/** Pieces in the database: one whose job ended with the program, photos that were removed, values read in from another bench. */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { closeStore, database } from "@/server/db/connection";
import { jobs } from "@/server/db/jobs";
import { kept } from "@/server/db/kept";
import { photos } from "@/server/db/photos";
import { printers as shelf } from "@/server/db/printers";
import { begunRuns, runs } from "@/server/db/runs";
import { spools } from "@/server/db/spools";
import { bin, REMOVED_DAYS } from "@/server/db/bin";
import { tidySlices } from "@/server/db/tidy";
import { trials } from "@/server/db/trials";
import { bundleSchema } from "@/core/values/bundle-schema";
import { exampleSheets } from "@/core/sheets/examples";
import { freshState } from "@/core/machine/state";
import { addBegunRuns, addRunOfCard, noteBegun, storedPiece } from "@/server/work/runs";
import { importBundle } from "@/server/work/import-bench";
import { exportBench } from "@/server/work/export-bench";
import { carryOver, putBack } from "@/server/work/values";
import { ladle, saffron, trialFor } from "../helpers/demo";

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "cuchara-pieces-"));
  process.env.CUCHARA_DATA = folder;
});
afterEach(() => {
  closeStore();
  rmSync(folder, { recursive: true, force: true });
});

const facts = { hash: "f".repeat(64), settledShares: [1, 1, 1, 1, 1, 1, 1] };

/** The bench as it goes over the border. */
const bundle = async () => bundleSchema.parse(JSON.parse(await exportBench()));

/** A printer, a spool and a trial on the shelf. */
function bench() {
  const printer = shelf.add(ladle);
  const spool = spools.add(saffron);
  const { id: _, createdAt: _c, updatedAt: _u, ...fields } = trialFor(ladle, saffron);
  return { printer, spool, trial: trials.add({ ...fields, printerId: printer.id, spoolId: spool.id }) };
}

function job(trialId: number, heightMm: number): number {
  const id = jobs.begin({ printerId: 1, source: "trial", sourceId: trialId, name: "Job", totalLines: 100 });
  jobs.end(id, { state: "broken", linesTaken: 40, heightMm, told: freshState() }, "Cuchara ended while it ran.");
  return id;
}

test("the piece of a job that ended with the program is known as high as it came; none for one that laid nothing; one that cannot be read holds up none", () => {
  const input = bench();
  const [nothing, half] = [job(input.trial.id, 0), job(input.trial.id, 14.2)];
  begunRuns.add(job(input.trial.id, 9), { what: "of an older program" });
  for (const id of [nothing, half]) noteBegun(id, { input, facts, feedShare: 0.97 });
  addBegunRuns();
  const [run, ...others] = runs.ofTrial(input.trial.id);
  expect(others).toEqual([]);
  expect(run).toMatchObject({ jobId: half, reachedMm: 14.2, way: "link", isSimulated: true });
  expect(storedPiece(run).units).toHaveLength(7);
  expect(begunRuns.all()).toEqual([]);
  // Once more, and there is still one.
  noteBegun(half, { input, facts, feedShare: 0.97 });
  addBegunRuns();
  expect(runs.ofTrial(input.trial.id)).toHaveLength(1);
});

test("photos that were removed go after some days, with those of removed pieces; the others stay", () => {
  const input = bench();
  const picture = { bytes: Buffer.from("picture"), type: "image/jpeg", widthPx: 10, heightPx: 10 };
  const place = { bottom: [5, 9], top: [5, 1] } as { bottom: [number, number]; top: [number, number] };
  const [one, other] = [1, 2].map(() => addRunOfCard(input, facts, {}, null));
  const [removed, stays] = [photos.add(one.id, "front", picture, place), photos.add(one.id, "back", picture, place)];
  photos.add(other.id, "front", picture, place);
  photos.remove(removed.id);
  runs.remove(other.id);
  const count = () => (database().prepare("SELECT COUNT(*) AS n FROM photos").get() as { n: number }).n;
  const tidyAfter = (days: number) => [...tidySlices(Date.now() + days * 86_400_000)];
  tidyAfter(REMOVED_DAYS - 1);
  expect(count()).toBe(3);
  tidyAfter(REMOVED_DAYS + 1);
  expect(photos.ofRun(one.id).map(({ id }) => id)).toEqual([stays.id]);
  expect(count()).toBe(1);
});

test("the newest value counts by when it was kept; one put back counts again; what another pair has is taken over once", () => {
  const { printer, spool } = bench();
  const pair = { printerId: printer.id, spoolId: spool.id };
  const add = (value: number, keptAt: string) => kept.add({ ...pair, setting: "fan", value, trialId: null, keptAt });
  const newer = add(60, "2026-11-02T10:00:00.000Z");
  const older = add(40, "2026-11-01T10:00:00.000Z");
  expect(kept.list(pair.printerId, pair.spoolId).map(({ id }) => id)).toEqual([newer.id]);
  putBack(older.id);
  expect(kept.list(pair.printerId, pair.spoolId)[0].value).toBe(40);
  const other = { printerId: printer.id, spoolId: spools.add({ ...saffron, name: "PLA Other" }).id };
  expect(carryOver(pair, other)).toMatchObject([
    { value: 40, carriedFrom: expect.any(Number), nozzleMm: ladle.nozzleMm },
  ]);
  expect(() => carryOver(pair, other)).toThrow(/nothing to take over/);
});

test("a bench read in where it came from adds nothing; in an empty one it is the same bench", async () => {
  const { printer, spool, trial } = bench();
  kept.add({ printerId: printer.id, spoolId: spool.id, setting: "fan", value: 45, trialId: null, note: "even" });
  const { id: _, version: _v, createdAt: _c, updatedAt: _u, ...fields } = trial;
  trials.add({ ...fields, name: "On a piece of one's own", sheet: exampleSheets[0] });
  const whole = await bundle();
  expect(whole.trials.map(({ sheet }) => sheet?.name)).toEqual([undefined, exampleSheets[0].name]);
  expect(await importBundle(whole)).toEqual({ printers: 0, spools: 0, kept: 0, trials: 0 });
  closeStore();
  process.env.CUCHARA_DATA = mkdtempSync(join(folder, "other-"));
  expect(await importBundle(whole)).toEqual({ printers: 1, spools: 1, kept: 1, trials: 2 });
  expect(await bundle()).toEqual(whole);
  // All of it or nothing.
  const broken = {
    ...whole,
    spools: [{ ...whole.spools[0], name: "PLA New" }],
    kept: [{ ...whole.kept[0], value: 400 }],
  };
  await expect(importBundle(broken)).rejects.toThrow(/Fan/);
  expect(spools.list()).toHaveLength(1);
});

test("a large bench arrives while others have their turn, is seen all at once, and leaves nothing when it is given up", async () => {
  closeStore();
  process.env.CUCHARA_DATA = mkdtempSync(join(folder, "large-"));
  const empty = await bundle();
  const one = { kind: "temperature", printer: 0, spool: 0, tool: 0, options: {} } as const;
  const large = {
    ...empty,
    printers: [ladle],
    spools: [saffron],
    trials: Array.from({ length: 800 }, (_, i) => ({ ...one, name: `Trial ${i}` })),
  };
  const gone = new AbortController();
  const given = importBundle(large, gone.signal);
  let turns = 0;
  const seen = new Set<number>();
  const others = setInterval(() => {
    seen.add(trials.list().length);
    if (++turns === 3) gone.abort();
  }, 1);
  await expect(given).rejects.toThrow();
  clearInterval(others);
  expect(await bundle()).toEqual(empty);
  expect(turns).toBeGreaterThanOrEqual(3);
  expect([...seen]).toEqual([0]);

  // A kill in the midst of it: the next start throws away what had arrived.
  shelf.insert(ladle, "arriving");
  closeStore();
  const raw = database().prepare("SELECT COUNT(*) AS n FROM printers").get() as { n: number };
  expect(raw.n).toBe(0);

  expect(await importBundle(large)).toEqual({ printers: 1, spools: 1, kept: 0, trials: 800 });
  expect(trials.list()).toHaveLength(800);

  // … and is written out while others have theirs.
  turns = 0;
  const more = setInterval(() => turns++, 1);
  expect((await bundle()).trials).toHaveLength(800);
  clearInterval(more);
  expect(turns).toBeGreaterThanOrEqual(3);
});

test("what was removed rests in the bin, is found there, put back, and goes after its time or when the bin is emptied", () => {
  const { printer, spool, trial } = bench();
  const value = kept.add({ printerId: printer.id, spoolId: spool.id, setting: "fan", value: 45, trialId: trial.id });
  trials.remove(trial.id);
  kept.remove(value.id);
  expect(
    bin
      .list()
      .map(({ what }) => what)
      .sort(),
  ).toEqual(["kept value", "trial"]);
  expect(bin.list("FAN 45")).toMatchObject([{ id: value.id, restore: `/kept/${value.id}/restore` }]);
  expect(bin.list("nothing like it")).toEqual([]);
  kept.restore(value.id);
  expect(bin.list()).toMatchObject([{ table: "trials", id: trial.id, name: trial.name }]);

  const rowsOf = (table: string) => database().prepare(`SELECT COUNT(*) FROM ${table}`).pluck().get();
  const tidyAfter = (days: number) => [...tidySlices(Date.now() + days * 86_400_000)];
  tidyAfter(REMOVED_DAYS - 1);
  expect(rowsOf("trials")).toBe(1);
  // A printer that a trial still speaks of outlasts it.
  shelf.remove(printer.id);
  expect(bin.empty()).toBe(2);
  expect(bin.list()).toEqual([]);
  tidyAfter(0);
  expect([rowsOf("trials"), rowsOf("kept_values")]).toEqual([0, 1]);
  expect(kept.get(value.id)!.trialId).toBeNull();
});
