/** Everything of the bench as one JSON (docs/values.md): written in slices, so that nobody else waits for thousands of trials. */
import { Bundle, BUNDLE_FORMAT, BUNDLE_VERSION } from "@/core/values/bundle-schema";
import { kept } from "../db/kept";
import { printers } from "../db/printers";
import { spools } from "../db/spools";
import { trials } from "../db/trials";
import { Turns } from "./turns";

interface Pair {
  printerId: number;
  spoolId: number;
}

/**
 * The shelf, all that was ever kept, and the trials, as text that can be read back in.
 *
 * @param signal ends it where nobody waits for it any more
 */
export async function exportBench(signal?: AbortSignal): Promise<string> {
  const turns = new Turns();
  const [allPrinters, allSpools] = [printers.list(), spools.list()];
  const placeOf = ({ printerId, spoolId }: Pair) => ({
    printer: allPrinters.findIndex(({ id }) => id === printerId),
    spool: allSpools.findIndex(({ id }) => id === spoolId),
  });
  const parts: string[] = [];
  /** A list as JSON, an element a time; what has no printer or spool is left out. */
  async function list<T>(name: keyof Bundle, from: readonly T[], write: (one: T) => object | null): Promise<void> {
    const written: string[] = [];
    const add = (one: T) => {
      const element = write(one);
      if (element) written.push(`    ${JSON.stringify(element, null, 2).replaceAll("\n", "\n    ")}`);
    };
    await turns.each(from, add, signal);
    parts.push(`  "${name}": [${written.length > 0 ? `\n${written.join(",\n")}\n  ` : ""}]`);
  }
  /** With the places of its printer and spool; null where one of them is in the bin. */
  const placed = (pair: Pair, fields: object) => {
    const place = placeOf(pair);
    return place.printer < 0 || place.spool < 0 ? null : { ...place, ...fields };
  };
  parts.push(`  "format": ${JSON.stringify(BUNDLE_FORMAT)}`, `  "version": ${BUNDLE_VERSION}`);
  await list("printers", allPrinters, bare);
  await list("spools", allSpools, bare);
  await list("kept", kept.everything(), (one) => {
    const { setting, value, fromValue, toValue, nozzleMm, layerHeightMm, inForce, note, keptAt } = one;
    return placed(one, { setting, value, fromValue, toValue, nozzleMm, layerHeightMm, inForce, note, keptAt });
  });
  await list("trials", trials.ids(), (id) => {
    const trial = trials.get(id);
    if (!trial) return null;
    const { kind, name, layerHeightMm, firstLayerHeightMm, plan, fixed, tool, options, sheet } = trial;
    return placed(trial, { kind, name, layerHeightMm, firstLayerHeightMm, plan, fixed, tool, options, sheet });
  });
  return `{\n${parts.join(",\n")}\n}\n`;
}

/** A record without what only this bench knows of it. */
function bare<T extends { id: number; version: number; createdAt: string; updatedAt: string }>(record: T) {
  const { id: _, version: _v, createdAt: _c, updatedAt: _u, ...fields } = record;
  return fields;
}
