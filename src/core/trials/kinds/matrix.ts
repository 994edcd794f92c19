/** Any two settings in one print: the values of the one stand side by side, those of the other one above the other. */
import type { Use } from "../../reading/criterion";
import type { CriterionKey } from "../../reading";
import type { ReadingGuide } from "../../reading/guide";
import { choiceOption, OptionValues, optionsOf } from "../../options/option";
import { SettingKey, settingFor, settingKeys, SettingValues } from "../../settings";
import { clamp, roundTo } from "../../units";
import { RoundRequest, TrialKind } from "../kind";
import { needs } from "../need";
import { highestOn } from "../round-ends";
import { stackBands, usualFixed } from "../rounds";
import { acceleration } from "./acceleration";
import { cornering } from "./cornering";
import { fan } from "./fan";
import { flow } from "./flow";
import { pressureAdvance } from "./pressure-advance";
import { retraction } from "./retraction";
import { speed } from "./speed";
import { temperature } from "./temperature";

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

/** The kind that looks for a setting by itself: its values, what it holds fixed, and what it looks at. */
const alone: Partial<Record<SettingKey, { kind: TrialKind; options: OptionValues }>> = {
  nozzleTemperature: { kind: temperature, options: {} },
  fan: { kind: fan, options: {} },
  retractionLength: { kind: retraction, options: { vary: "length" } },
  retractionSpeed: { kind: retraction, options: { vary: "speed" } },
  flowFactor: { kind: flow, options: {} },
  printSpeed: { kind: speed, options: {} },
  acceleration: { kind: acceleration, options: {} },
  jerk: { kind: cornering, options: {} },
  junctionDeviation: { kind: cornering, options: {} },
  pressureAdvance: { kind: pressureAdvance, options: { form: "tower" } },
};

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

/** A setting's values in the first round of the kind that looks for it alone, no more than are wanted of two at once. */
function usualValues(
  key: SettingKey,
  request: RoundRequest,
  most: number,
): { values: number[]; fixed: SettingValues; notes: string[] } {
  const { lowest, step, usual } = settingFor(key);
  const highest = highestOn(key, request.printer);
  const one = alone[key];
  if (one) {
    const options = optionsOf(one.kind.options, one.options, request.printer);
    const { plan, fixed, notes } = one.kind.firstRound({ ...request, options });
    const tried = plan.bands.flatMap(({ settings }) => settings[key] ?? []);
    if (tried.length > 0) return { values: thinned([...new Set(tried)], most), fixed, notes };
  }
  const middle = request.kept[key] ?? usual(request.printer, request.spool);
  const around = AROUND.map((share) => roundTo(clamp(Math.round((middle * share) / step) * step, lowest, highest), 4));
  return { values: [...new Set(around)], fixed: {}, notes: [] };
}

/** Some of the values, both ends among them. */
function thinned(values: number[], most: number): number[] {
  if (values.length <= most) return values;
  return Array.from({ length: most }, (_, i) => values[Math.round((i * (values.length - 1)) / (most - 1))]);
}

export const matrix: TrialKind = {
  label: "Matrix of two settings",
  question: (spool, options) => {
    const [across, up] = Object.values(settingsAsked(options)).map((key) => settingFor(key).label.toLowerCase());
    return `Which ${across} and ${up} suit ${spool.colourName || spool.name} together?`;
  },
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
    choiceOption(options, "across") === choiceOption(options, "up")
      ? { message: "Choose two different settings: one stands side by side, the other goes up.", field: "options.up" }
      : null,
  needsOwnPiece: true,
  specimen: pieceFor,
  firstRound(request) {
    const { options, asked } = request;
    const { across, up } = settingsAsked(options);
    const beside = usualValues(across, request, MOST_ACROSS[pieceFor(options)]);
    const above = usualValues(up, request, MOST_UP);
    const bandMm = BAND_MM[pieceFor(options)];
    const { plan, notes } = stackBands(request, {
      key: up,
      values: asked?.up ?? above.values,
      bandMm,
      lowestBandMm: 1,
    });
    return {
      plan: { ...plan, sideBySide: { setting: across, values: asked?.across ?? beside.values } },
      fixed: usualFixed(request, [across, up], { ...above.fixed, ...beside.fixed }),
      notes: [...new Set([...notes, ...above.notes, ...beside.notes])],
    };
  },
  reads: guide,
  range: (_, spool) => ({ low: spool.labelMinC, high: spool.labelMaxC }),
};
