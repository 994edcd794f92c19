/** Changing a value: whether it may be, and by which line. */
import { refuse, Result, succeed } from "../../result";
import { plainNumber } from "../../units";
import { valueFor } from "./index";
import { lineFactorOf } from "./reading";
import { FirmwareValue } from "./value";

/** A change larger than this share of the old value is asked about first. Common practice, no source. */
export const LARGE_JUMP = 0.25;

export interface StagedChange {
  id: string;
  from: number | null;
  to: number;
  /** The line that will be sent. */
  line: string;
  /** A question to answer before it is tried, or null. */
  ask: string | null;
}

/** The line that sets a value, in the figures the printer counts in. */
export function valueLine(
  definition: FirmwareValue,
  tool: number,
  value: number,
  feedsPerMinute: boolean,
  tools = 1,
): string {
  const factor = lineFactorOf(definition, feedsPerMinute);
  const figure = plainNumber(value * factor, factor === 60 ? 0 : definition.decimals);
  const named = /_/.test(definition.command);
  const word = named ? `${definition.word}=${figure}` : `${definition.word}${figure}`;
  const names = definition.toolWord && (tools > 1 || definition.toolWord !== "T");
  return [definition.command, names ? `${definition.toolWord}${tool}` : null, word].filter(Boolean).join(" ");
}

/**
 * Stages a new figure for a value: refused outside what the value can be; `ask` is set for a jump of more than 25 %, which
 * is more often a slip of the finger than a finding.
 */
export function stageChange(
  id: string,
  from: number | null,
  to: number,
  printer: { feedsPerMinute: boolean; tools: number },
): Result<StagedChange> {
  const found = valueFor(id);
  if (!found) return refuse(`There is no firmware value “${id.slice(0, 40)}”.`, "id");
  const { definition, tool } = found;
  const unit = definition.unit ? ` ${definition.unit}` : "";
  if (!Number.isFinite(to)) return refuse(`${definition.label} must be a number.`, "value");
  if (to < definition.lowest || to > definition.highest) {
    return refuse(
      `${definition.label} is between ${plainNumber(definition.lowest)} and ${plainNumber(definition.highest)}${unit}; ${plainNumber(to, 4)} is outside.`,
      "value",
    );
  }
  const line = valueLine(definition, tool, to, printer.feedsPerMinute, printer.tools);
  return succeed({ id, from, to, line, ask: jumpQuestion(definition, from, to) });
}

function jumpQuestion({ label, unit, decimals }: FirmwareValue, from: number | null, to: number): string | null {
  if (from === null || from === 0) return null;
  const share = (to - from) / Math.abs(from);
  if (Math.abs(share) <= LARGE_JUMP) return null;
  const say = (value: number) => `${plainNumber(value, decimals)}${unit ? ` ${unit}` : ""}`;
  return `${label} would go from ${say(from)} to ${say(to)}, ${plainNumber(Math.abs(share) * 100, 0)} % ${share > 0 ? "more" : "less"}. Is that meant?`;
}

/**
 * Whether a figure read back is the one that was sent: within half of the last decimal of what is told and of what is shown.
 *
 * @param shownDecimals as the reported line has them (`ValueEntry.decimals`); those the value is set with where they are not known
 */
export function isTaken(id: string, sent: number, readBack: number | undefined, shownDecimals?: number): boolean {
  const found = valueFor(id);
  if (!found || readBack === undefined) return false;
  const { decimals, lineFactor = 1 } = found.definition;
  // A figure told per minute goes out as a whole number.
  const sentStep = lineFactor === 1 ? 10 ** -decimals : 1 / lineFactor;
  const shownStep = 10 ** -(shownDecimals ?? decimals) / lineFactor;
  return Math.abs(sent - readBack) <= 0.5001 * (sentStep + shownStep);
}
