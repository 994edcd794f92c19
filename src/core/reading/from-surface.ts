/** The answer of any two settings: the pair of values where the weighted score is highest. */
import { criterionFor } from ".";
import { sayValue, settingFor, SettingKey } from "../settings";
import { clamp, plainNumber } from "../units";
import { HIGH_SHARE, LOW_SHARE } from "./belief/piece-belief";
import { quantile, shareOf } from "./belief/summary";
import type { Line } from "./belief/line";
import { SurfaceBelief, surfaceBelief } from "./belief/surface-belief";
import type { Advice } from "./found";
import type { FoundInField } from "./from-field";
import {
  BAR,
  BEYOND_FROM,
  EDGE_SHARE,
  FINEST_MARGIN,
  FINEST_NARROW_STEPS,
  LEAST_KEPT,
  NARROW_STEPS,
} from "./from-marks";
import type { ReadingGuide } from "./guide";
import { finestStep, sayChance, sayFromTo, sensible } from "./say";
import type { BandOnPiece, GivenMark, Weights } from "./score";

interface Request {
  guide: ReadingGuide;
  across: SettingKey;
  along: SettingKey;
  cells: readonly BandOnPiece[];
  readers: readonly (readonly GivenMark[])[];
  weights: Weights;
}

/** A setting whose range is so wide, in shares of what was tried, and over which the score changes so little, in marks, shows nothing. */
export const OPEN = 0.6;
const SEEN = 0.5;
/** One of the two settings, as it is believed. */
interface Side {
  setting: SettingKey;
  line: Line;
  fromX: number;
  toX: number;
  fromValue: number;
  toValue: number;
  chanceBelow: number;
  chanceAbove: number;
  /** Whether any value of it may be the best one. */
  isOpen: boolean;
  /** Whether the range is as narrow as can be seen, with values that were tried on both sides of it. */
  isNarrow: boolean;
}

/** Null while marks do not lie on two values of each setting. */
export function fromSurface({ guide, across, along, cells, readers, weights }: Request): FoundInField | null {
  const belief = surfaceBelief({
    cells,
    readers,
    uses: guide.uses,
    weights,
    bar: BAR,
    towards: guide.towards,
    ends: { across: settingFor(across), along: settingFor(along) },
  });
  if (!belief) return null;
  const beside = sideOf(across, belief.across, belief.bestX, belief.tried.x, belief.changesAcross);
  const up = sideOf(along, belief.along, belief.bestY, belief.tried.y, belief.changesAlong);
  const advice = adviceOn(belief, beside, up);
  const sorted = Float64Array.from(belief.bestX);
  return {
    value: belief.across.toValue(belief.tried.x),
    fromValue: beside.fromValue,
    toValue: beside.toValue,
    chanceBetween: (from, to) =>
      shareOf(sorted, (x) => {
        const value = belief.across.toValue(x);
        return value >= from - 1e-9 && value <= to + 1e-9;
      }),
    chanceBelow: beside.chanceBelow,
    chanceAbove: beside.chanceAbove,
    advice,
    tellsMost: belief.tellsMost,
    others: [],
    curve: [],
    along: belief.along.toValue(belief.tried.y),
    alongFrom: up.fromValue,
    alongTo: up.toValue,
    alongBelow: up.chanceBelow,
    alongAbove: up.chanceAbove,
    good: belief.good,
    why: sayWhy(belief, beside, up, advice, cells),
  };
}

function sideOf(setting: SettingKey, line: Line, best: Float64Array, value: number, changes: number): Side {
  const { lowest, highest, step } = settingFor(setting);
  const sorted = Float64Array.from(best).sort();
  const [fromX, toX] = [Math.min(quantile(sorted, LOW_SHARE), value), Math.max(quantile(sorted, HIGH_SHARE), value)];
  const edge = EDGE_SHARE / (line.values.length - 1);
  const limit = (x: number) => clamp(line.toValue(clamp(x, line.lowX, line.highX)), lowest, highest);
  const [fromValue, toValue] = [limit(fromX), limit(toX)];
  const triedStep = (line.values[line.values.length - 1] - line.values[0]) / (line.values.length - 1);
  const isFinest = triedStep <= finestStep(setting) * FINEST_MARGIN;
  const isInside = (fromX > edge || line.lowX > -edge) && (toX < 1 - edge || line.highX < 1 + edge);
  const width = (isFinest ? FINEST_NARROW_STEPS : NARROW_STEPS) * step;
  return {
    setting,
    line,
    fromX,
    toX,
    fromValue,
    toValue,
    chanceBelow: shareOf(sorted, (x) => x < -edge),
    chanceAbove: shareOf(sorted, (x) => x > 1 + edge),
    isOpen: toX - fromX > OPEN && changes < SEEN,
    isNarrow: isInside && toValue - fromValue <= width,
  };
}

function adviceOn({ tried }: SurfaceBelief, beside: Side, up: Side): Advice {
  if (beside.isOpen && up.isOpen) return "mark-more";
  if (Math.max(beside.chanceAbove, beside.chanceBelow) > BEYOND_FROM)
    return beside.chanceAbove >= beside.chanceBelow ? "higher" : "lower";
  if (beside.isNarrow && up.isNarrow && tried.score >= LEAST_KEPT) return "keep";
  return "narrow";
}

function sayWhy(
  { tried, across, along, contradiction, unseen, tellsMost }: SurfaceBelief,
  beside: Side,
  up: Side,
  advice: Advice,
  cells: readonly BandOnPiece[],
): string {
  const sentences: string[] = [];
  if (contradiction) {
    sentences.push(
      `Two readers contradict each other, most about ${criterionFor(contradiction.criterion).short}: look at it together.`,
    );
  }
  const said = (setting: SettingKey, value: number) => {
    const { decimals, unit, label } = settingFor(setting);
    return `${label.toLowerCase()} ${plainNumber(sensible(setting, value), decimals + 1)} ${unit}`.trim();
  };
  if (advice === "mark-more") {
    sentences.push("No pair of values stands out yet.");
  } else {
    sentences.push(
      `Best of what was tried: ${said(beside.setting, across.toValue(tried.x))} with ${said(up.setting, along.toValue(tried.y))}.`,
    );
    for (const side of [beside, up]) sentences.push(saySide(side));
  }
  const asked = tellsMost && advice !== "keep" ? cells.find(({ band }) => band === tellsMost.band) : undefined;
  if (tellsMost && asked) {
    const place = `${sayValue(beside.setting, asked.value)} at ${sayValue(up.setting, asked.along!)}`;
    sentences.push(`Mark ${criterionFor(tellsMost.criterion).short} of ${place} next: it tells most.`);
  }
  if (unseen.length > 0) sentences.push(`Nobody looked at ${unseen.map((key) => criterionFor(key).short).join(", ")}.`);
  return sentences.join(" ");
}

function saySide({ setting, line, isOpen, fromValue, toValue, chanceAbove, chanceBelow }: Side): string {
  const { label, decimals, unit } = settingFor(setting);
  const edge = (value: number) => `${plainNumber(value, decimals)} ${unit}`.trim();
  if (chanceAbove > BEYOND_FROM && chanceAbove >= chanceBelow)
    return `${sayChance(chanceAbove)} that the best ${label.toLowerCase()} is above ${edge(line.values[line.values.length - 1])}.`;
  if (chanceBelow > BEYOND_FROM)
    return `${sayChance(chanceBelow)} that the best ${label.toLowerCase()} is below ${edge(line.values[0])}.`;
  if (isOpen) return `${label} makes no difference that can be seen here.`;
  return `The best ${label.toLowerCase()} is ${sayFromTo(setting, fromValue, toValue)}, in 9 of 10.`;
}
