/** Any two settings in one print: the values of the one stand side by side, those of the other one above the other. */
import type { Use } from "../../reading/criterion";
import type { CriterionKey } from "../../reading";
import type { ReadingGuide } from "../../reading/guide";
import { OptionValues, optionsOf } from "../../options/option";
import { SettingKey, settingFor, settingKeys, SettingValues } from "../../settings";
import { BLOCK_MM } from "../../specimens/block-size";
import { clamp, plainNumber, roundTo } from "../../units";
import { RoundRequest, TrialKind } from "../kind";
import { needs } from "../need";
import { highestOn } from "../round-ends";
import { Fitted, stackBands, usualFixed } from "../rounds";
import { alone } from "./alone";

/** Settings that a printer can be given within a layer, from one part of the piece to the next. */
const acrossKeys = [
  "retractionLength",
  "retractionSpeed",
  "travelSpeed",
  "flowFactor",
  "printSpeed",
  "acceleration",
  "jerk",
  "junctionDeviation",
  "pressureAdvance",
] as const satisfies readonly SettingKey[];

/** What ways over air depend on is seen between the posts of a fence, all else on blocks. */
const aboutWays: readonly SettingKey[] = ["retractionLength", "retractionSpeed", "travelSpeed"];
const shownBy: Record<"fence" | "blocks", readonly CriterionKey[]> = {
  fence: ["strings", "blobs", "gaps", "bond"],
  blocks: ["strings", "surface", "corners", "gaps", "blobs", "bond", "ghosting", "even", "overhang"],
};

/** More values than these make a piece that nobody wants to print. */
const MOST_ACROSS = { fence: 6, blocks: 5 };
const MOST_UP = 6;
/** Where no kind asks for a setting, values so far around what is usual. */
const AROUND = [0.6, 0.8, 1, 1.2, 1.4];
const BAND_MM = { fence: 3.6, blocks: 3.6 };

/** The two settings; the usual ones where options name none that fit. */
export function settingsAsked({ across, up }: OptionValues): { across: SettingKey; up: SettingKey } {
  const known = (key: unknown, among: readonly SettingKey[], usual: SettingKey) =>
    among.find((one) => one === key) ?? usual;
  return { across: known(across, acrossKeys, "flowFactor"), up: known(up, settingKeys, "nozzleTemperature") };
}

const pieceFor = (options: OptionValues) =>
  aboutWays.includes(settingsAsked(options).across) ? ("fence" as const) : ("blocks" as const);

/** What the kinds of both settings look at, as far as the piece shows it. */
function guide(options: OptionValues): ReadingGuide {
  const { across, up } = settingsAsked(options);
  const shown = shownBy[pieceFor(options)];
  const uses = new Map<CriterionKey, Use<CriterionKey>>();
  for (const key of [across, up]) {
    const one = alone[key];
    // A must of either goes on being one.
    for (const use of one?.kind.reads(one.options).uses ?? []) {
      const known = uses.get(use.key);
      const weight = Math.max(use.weight, known?.weight ?? 0);
      if (shown.includes(use.key)) uses.set(use.key, { ...known, ...use, weight });
    }
  }
  if (uses.size === 0) for (const key of shown.slice(0, 3)) uses.set(key, { key, weight: 1 });
  const rule = alone[across]?.kind.reads(alone[across].options).rule;
  return {
    rule: "surface",
    ...(rule === "least" ? { towards: "low" as const } : rule === "most" ? { towards: "high" as const } : {}),
    uses: [...uses.values()],
  };
}

interface Tried extends Fitted {
  fixed: SettingValues;
}

/**
 * A setting's values: those that are asked for, else those of the first round of the kind that looks for it alone, no more than are wanted of
 * two at once; with what that kind holds fixed.
 */
function valuesFor(key: SettingKey, request: RoundRequest, most: number, asked: number[] | undefined): Tried {
  const one = alone[key];
  if (one) {
    const options = optionsOf(one.kind.options, one.options, request.printer);
    const { plan, fixed, notes } = one.kind.firstRound({ ...request, options });
    const tried = plan.bands.flatMap(({ settings }) => settings[key] ?? []);
    if (asked) return { values: asked, fixed, notes: [] };
    if (tried.length > 0) return { values: thinned([...new Set(tried)], most), fixed, notes };
  }
  const { lowest, step, usual } = settingFor(key);
  const highest = highestOn(key, request.printer);
  const middle = request.kept[key] ?? usual(request.printer, request.spool);
  const around = AROUND.map((share) => roundTo(clamp(Math.round((middle * share) / step) * step, lowest, highest), 4));
  return { values: asked ?? [...new Set(around)], fixed: {}, notes: [] };
}

/** Some of the values, both ends among them. */
function thinned(values: number[], most: number): number[] {
  if (values.length <= most) return values;
  return Array.from({ length: most }, (_, i) => values[Math.round((i * (values.length - 1)) / (most - 1))]);
}

/** Fewer speeds than this are no row of them. */
const FEWEST_SPEEDS = 3;

/**
 * Speeds as far as the side of a block lets them come, and what is said of it: from standing and back to it on a way s a nozzle with
 * acceleration a comes to √(a·s).
 */
function onBlocks(speeds: number[], accelerationMmS2: number, isUsual: boolean): Fitted {
  const reachMmS = Math.floor(Math.sqrt(accelerationMmS2 * BLOCK_MM));
  if (speeds.every((speed) => speed <= reachMmS)) return { values: speeds, notes: [] };
  const said = `A block is ${BLOCK_MM} mm wide: at ${plainNumber(accelerationMmS2)} mm/s² the nozzle reaches at most ${reachMmS} mm/s in the middle of its side`;
  if (!isUsual) return { values: speeds, notes: [`${said}. Faster values will look the same.`] };
  const within = speeds.filter((speed) => speed <= reachMmS);
  const low = Math.min(...speeds, reachMmS / 2);
  const evenly = Array.from({ length: FEWEST_SPEEDS }, (_, i) =>
    Math.round(low + ((reachMmS - low) * i) / (FEWEST_SPEEDS - 1)),
  );
  return { values: within.length >= FEWEST_SPEEDS ? within : evenly, notes: [`${said}: nothing faster is tried.`] };
}

export const matrix: TrialKind = {
  label: "Matrix of two settings",
  question: (spool, options) => {
    const [across, up] = Object.values(settingsAsked(options)).map((key) => settingFor(key).label.toLowerCase());
    return `Which ${across} and ${up} suit ${spool.colourName || spool.name} together?`;
  },
  answers: "Two settings against each other, in one print",
  explains:
    "Tries every value of one setting with every value of another, in one print: one stands side by side, the other goes up. Look for the place where the piece is best.",
  needs: [needs.temperature],
  isChosen: true,
  setting: (_, options) => settingsAsked(options).up,
  options: [
    {
      key: "across",
      label: "Side by side",
      kind: "choice",
      choices: acrossKeys.map((value) => ({ value, label: settingFor(value).label.toLowerCase() })),
      usual: "flowFactor",
      remakes: true,
    },
    {
      key: "up",
      label: "Going up",
      kind: "choice",
      choices: settingKeys.map((value) => ({ value, label: settingFor(value).label.toLowerCase() })),
      usual: "nozzleTemperature",
      remakes: true,
    },
  ],
  refuses: (options) =>
    settingsAsked(options).across === settingsAsked(options).up
      ? { message: "Choose two different settings: one stands side by side, the other goes up.", field: "options.up" }
      : null,
  needsOwnPiece: true,
  specimen: pieceFor,
  firstRound(request) {
    const { options, asked, printer, kept } = request;
    const { across, up } = settingsAsked(options);
    const piece = pieceFor(options);
    const tried = {
      [across]: valuesFor(across, request, MOST_ACROSS[piece], asked?.across),
      [up]: valuesFor(up, request, MOST_UP, asked?.up),
    };
    const { acceleration, printSpeed } = tried;
    if (printSpeed && piece === "blocks") {
      const most = Math.max(...(acceleration?.values ?? [kept.acceleration ?? printer.printAccelerationMmS2]));
      const { values, notes } = onBlocks(printSpeed.values, most, asked === undefined);
      Object.assign(printSpeed, { values, notes: [...printSpeed.notes, ...notes] });
    }
    const [beside, above] = [tried[across], tried[up]];
    const stack = { key: up, values: above.values, bandMm: BAND_MM[piece], lowestBandMm: 1 };
    const { plan, notes } = stackBands(request, stack);
    return {
      plan: { ...plan, sideBySide: { setting: across, values: beside.values } },
      fixed: usualFixed(request, [across, up], { ...above.fixed, ...beside.fixed }),
      notes: [...new Set([...notes, ...above.notes, ...beside.notes])],
    };
  },
  reads: guide,
  range(printer, spool, options) {
    const { up } = settingsAsked(options);
    const one = alone[up];
    if (one) return one.kind.range(printer, spool, one.options);
    const { lowest, highest } = settingFor(up);
    return { low: lowest, high: highest };
  },
};
