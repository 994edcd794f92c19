/**
 * The proof of a stack of edits, whatever they are: the changed file is read back, and what none of them may touch is held against the file
 * as it came, layer by layer; then each says itself whether what it was asked for is there.
 */
import { EventKind, laysMaterial } from "../gcode/moves";
import type { ProgramTables } from "../gcode/tables";
import { plainNumber } from "../units";
import { keepable, Keeps } from "./edit";

/** What a layer is, in figures that can be compared. */
interface LayerDigest {
  laid: number;
  path: number;
  filamentMm: number;
  /** Feed times length, summed. */
  speed: number;
  heat: string;
  fan: string;
}

export type Digest = LayerDigest[];

/** The digest of a program that was read: small, whatever its size. */
export function digestOf({ moves, events, layers }: ProgramTables): Digest {
  const digest = layers.map((): LayerDigest => ({
    laid: 0,
    path: 2166136261,
    filamentMm: 0,
    speed: 0,
    heat: "",
    fan: "",
  }));
  const mix = (hash: number, figure: number) => Math.imul(hash ^ Math.round(figure * 1000), 16777619);
  for (let i = 1; i < moves.count; i++) {
    const layer = digest[moves.layer[i]];
    if (!layer || !laysMaterial(moves.kind[i])) continue;
    layer.laid++;
    layer.path = mix(mix(mix(layer.path, moves.x[i]), moves.y[i]), moves.z[i]);
    layer.filamentMm += moves.filamentMm[i];
    layer.speed += moves.feedMmS[i] * Math.hypot(moves.x[i] - moves.x[i - 1], moves.y[i] - moves.y[i - 1]);
  }
  let at = 0;
  const heats = new Map<string, number>();
  const fans = new Map<number, number>();
  // What holds in each layer when its first material is laid and what is told while it is: in force, not how it was said.
  for (const [index, { firstPrintMove, lastMove }] of layers.entries()) {
    const take = (until: number) => {
      for (; at < events.count && events.move[at] <= until; at++) {
        const [kind, value, tool] = [events.kind[at], events.value[at], events.tool[at]];
        if (kind === EventKind.nozzleTemperature || kind === EventKind.nozzleTemperatureWait)
          heats.set(`T${tool}`, value);
        else if (kind === EventKind.bedTemperature || kind === EventKind.bedTemperatureWait) heats.set("bed", value);
        else if (kind === EventKind.fan) fans.set(tool, value);
      }
    };
    take(firstPrintMove);
    const opened = JSON.stringify([[...heats].sort(), [...fans].sort()]);
    take(lastMove);
    // In the order of their names: which was told first is not what holds.
    const [heat, fan] = [JSON.stringify([...heats].sort()), JSON.stringify([...fans].sort())];
    digest[index].heat = `${(JSON.parse(opened) as unknown[][])[0].join()}|${heat}`;
    digest[index].fan = `${(JSON.parse(opened) as unknown[][])[1].join()}|${fan}`;
  }
  return digest;
}

const wasKept: Record<Keeps, { differs(a: LayerDigest, b: LayerDigest): boolean; wrong: string; right: string }> = {
  path: {
    differs: (a, b) => a.laid !== b.laid || a.path !== b.path,
    wrong: "lays material elsewhere than before",
    right: "Material is laid where it was.",
  },
  filament: {
    differs: (a, b) => Math.abs(a.filamentMm - b.filamentMm) > 1e-3 + 1e-4 * a.filamentMm,
    wrong: "lays another amount of filament than before",
    right: "As much filament is laid as before.",
  },
  speed: {
    differs: (a, b) => Math.abs(a.speed - b.speed) > 1e-2 + 1e-3 * a.speed,
    wrong: "is laid at another speed than before",
    right: "It is laid as fast as before.",
  },
  heat: {
    differs: (a, b) => a.heat !== b.heat,
    wrong: "tells nozzle or bed another temperature than before",
    right: "Nozzle and bed are told what they were told.",
  },
  fan: {
    differs: (a, b) => a.fan !== b.fan,
    wrong: "tells the fan something else than before",
    right: "The fan is told what it was told.",
  },
};

/** What of a file must be as it was, held against the file as it came: sentences for what is, and for what is not. */
export function compareKept(
  before: Digest,
  after: Digest,
  keeps: readonly Keeps[],
): { wrong: string[]; passed: string[] } {
  const wrong: string[] = [];
  const passed: string[] = [];
  if (keeps.length === 0) return { wrong, passed };
  if (before.length !== after.length) {
    return { wrong: [`The file has ${after.length} layers, and had ${before.length}.`], passed };
  }
  for (const what of keepable) {
    if (!keeps.includes(what)) continue;
    const { differs, wrong: says, right } = wasKept[what];
    const layer = before.findIndex((one, i) => differs(one, after[i]));
    if (layer < 0) passed.push(right);
    else wrong.push(`Layer ${layer + 1} ${says}.`);
  }
  return { wrong, passed };
}

/** A sentence where a figure is not what it should be, within a share of it; none where it is. */
export function mustBe(what: string, got: number, wanted: number, within: number, unit: string): string[] {
  return Math.abs(got - wanted) <= Math.abs(wanted) * within + 1e-6
    ? []
    : [`${what} should be ${plainNumber(wanted, 2)} ${unit} and is ${plainNumber(got, 2)} ${unit}.`];
}
