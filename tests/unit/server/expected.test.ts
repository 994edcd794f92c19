/** What earlier spools lead one to expect, from what is kept on a bench: docs/api.md, `GET /api/bench/expected` and `whole`. */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { closeStore } from "@/server/db/connection";
import { kept } from "@/server/db/kept";
import { writePreferences } from "@/server/db/preferences";
import { printers } from "@/server/db/printers";
import { spools } from "@/server/db/spools";
import { expectedFor } from "@/server/work/expected";
import { basisOf, firstTrial } from "@/server/work/trials";
import { newTrialSchema } from "@/core/trials/trial-schema";
import { ladle, saffron } from "../helpers/demo";

const folder = mkdtempSync(join(tmpdir(), "cuchara-expected-"));
process.env.CUCHARA_DATA = folder;
afterAll(() => {
  closeStore();
  rmSync(folder, { recursive: true, force: true });
});

test("values kept for other spools are expected of a new one; those taken over, and its own, are not", () => {
  const printer = printers.add(ladle);
  const asked = spools.add(saffron);
  const others = [207, 208, 208, 209, 207].map((value, i) => {
    const spool = spools.add({ ...saffron, name: `Other ${i}`, colourHex: `#00000${i}` });
    const pair = { printerId: printer.id, spoolId: spool.id, trialId: null };
    kept.add({ ...pair, setting: "nozzleTemperature", value });
    return spool;
  });
  const taken = spools.add({ ...saffron, name: "Taken over" });
  const first = kept.list(printer.id, others[0].id)[0];
  kept.add({
    printerId: printer.id,
    spoolId: taken.id,
    trialId: null,
    setting: "nozzleTemperature",
    value: 230,
    carriedFrom: first.id,
  });

  const found = expectedFor(printer.id, asked.id).nozzleTemperature!;
  expect(found.because.map(({ spoolId }) => spoolId).sort()).toEqual(others.map(({ id }) => id).sort());
  expect(found.because.reduce((sum, { weight }) => sum + weight, 0)).toBeCloseTo(1, 2);
  expect(found.value).toBe(208);
  expect(expectedFor(printer.id, asked.id).fan).toBeUndefined();

  const wanted = newTrialSchema.parse({ kind: "temperature", printerId: printer.id, spoolId: asked.id });
  const spanOf = (whole: boolean) => {
    const { bands } = firstTrial(wanted, null, basisOf(wanted, whole)).plan!;
    const values = bands.map(({ settings }) => settings.nozzleTemperature!);
    return Math.max(...values) - Math.min(...values);
  };
  expect(spanOf(true)).toBe(30);
  expect(spanOf(false)).toBeLessThan(25);

  // What another question holds fixed is held as it is expected, and said; asked as a whole it is the label's middle.
  const fan = newTrialSchema.parse({ kind: "fan", printerId: printer.id, spoolId: asked.id });
  expect(firstTrial(fan, null, basisOf(fan)).fixed!.nozzleTemperature).toBe(208);
  expect(firstTrial(fan, null, basisOf(fan, true)).fixed!.nozzleTemperature).toBe(210);

  // Who does not want to hear of others is told nothing of them.
  writePreferences({ expectsAlike: false });
  expect(expectedFor(printer.id, asked.id)).toEqual({});
  writePreferences({ expectsAlike: true });

  spools.remove(others[0].id);
  expect(expectedFor(printer.id, asked.id).nozzleTemperature!.because).toHaveLength(4);
});
