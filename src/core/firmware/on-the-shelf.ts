/** What a printer tells of itself, as figures of its record on the shelf. */
import { DialectKey, dialects } from "../machine/dialects";
import type { Printer } from "../shelf/printer";
import type { Identity } from "./reports/identity";
import { valueFor } from "./values";
import { isTaken } from "./values/change";
import { readValues, ValueEntry } from "./values/reading";
import type { FirmwareValue } from "./values/value";

/** A figure of a record, and the line it was read from. */
export interface ToldFigure {
  field: keyof Printer;
  value: number | string | boolean;
  line: string;
}

/** Where a firmware's values stand in a record; of two that fill one field the first that was told counts. */
const fieldOf: [key: string, field: keyof Printer][] = [
  ["printAcceleration", "printAccelerationMmS2"],
  ["sharedAcceleration", "printAccelerationMmS2"],
  ["travelAcceleration", "travelAccelerationMmS2"],
  ["sharedAcceleration", "travelAccelerationMmS2"],
  ["retractAcceleration", "retractAccelerationMmS2"],
  ["highestAccelerationZ", "highestAccelerationZMmS2"],
  ["highestAccelerationE", "highestAccelerationEMmS2"],
  ["jerkX", "jerkMmS"],
  ["jerkPerMinuteX", "jerkMmS"],
  ["squareCornerSpeed", "jerkMmS"],
  ["jerkZ", "jerkZMmS"],
  ["jerkPerMinuteZ", "jerkZMmS"],
  ["jerkE", "jerkEMmS"],
  ["jerkPerMinuteE", "jerkEMmS"],
  ["junctionDeviation", "junctionDeviationMm"],
  ["highestFeedX", "highestFeedXyMmS"],
  ["highestFeed", "highestFeedXyMmS"],
  ["highestFeedZ", "highestFeedZMmS"],
  ["highestFeedE", "highestFeedEMmS"],
  ["retractionLength", "retractionMm"],
  ["namedRetractionLength", "retractionMm"],
  ["retractionSpeed", "retractionMmS"],
  ["namedRetractionSpeed", "retractionMmS"],
  ["pressureAdvance", "pressureAdvanceS"],
  ["pressureAdvancePerTool", "pressureAdvanceS"],
  ["namedPressureAdvance", "pressureAdvanceS"],
];

/**
 * The dialect a printer speaks, by the commands it reports its values with; null if none of them tells. Whether a fan has a duty is
 * told by no report (common practice, no source).
 */
export function dialectTold(answers: string[]): { dialect: DialectKey; line: string } | null {
  const { entries } = readValues(answers);
  const lineOf = (...keys: string[]) => entries.find(({ id }) => keys.includes(id))?.line;
  const tells: [DialectKey, string | undefined][] = [
    ["minute", lineOf("jerkPerMinuteX", "jerkPerMinuteY", "pressureAdvancePerTool")],
    ["deviation", lineOf("junctionDeviation")],
    ["jerk", lineOf("jerkX", "jerkY")],
    ["keyword", lineOf("sharedAcceleration", "squareCornerSpeed", "namedPressureAdvance", "namedRetractionLength")],
  ];
  const [told] = tells.flatMap(([dialect, line]) => (line === undefined ? [] : [{ dialect, line }]));
  return told ?? null;
}

/** The retraction of a printer that draws back by its own moves is not in its firmware; 0 there says nothing. */
const saysNothing = (field: keyof Printer, value: number) => field === "retractionMm" && value === 0;

/** Which figures of a record an identity and the answers to the questions for values fill in, each with its line. */
export function toldFigures(identity: Identity, answers: string[]): ToldFigure[] {
  const dialect = dialectTold(answers);
  const told: ToldFigure[] = dialect ? [{ field: "dialect", value: dialect.dialect, line: dialect.line }] : [];
  const extruders = Number(identity.fields.EXTRUDER_COUNT);
  if (Number.isInteger(extruders) && extruders >= 1 && extruders <= 8)
    told.push({ field: "tools", value: extruders, line: `EXTRUDER_COUNT:${extruders}` });
  const { entries } = readValues(answers, dialect ? dialects[dialect.dialect].feedsPerMinute : false);
  return [...told, ...firmwareFields(entries).map(({ field, entry: { value, line } }) => ({ field, value, line }))];
}

/** A figure of a record that the firmware has otherwise. */
export interface RecordDifference {
  field: keyof Printer;
  label: string;
  unit: string;
  /** In the record, and as the firmware has it. */
  inRecord: number;
  told: number;
}

/** Figures of a record that a reading says otherwise, by more than the firmware tells them exactly. */
export function recordDifferences(printer: Printer, entries: readonly ValueEntry[]): RecordDifference[] {
  return firmwareFields(entries).flatMap(({ field, entry, definition }) => {
    const inRecord = printer[field];
    if (typeof inRecord !== "number" || isTaken(entry.id, inRecord, entry.value, entry.decimals)) return [];
    const { label, unit } = definition;
    return [{ field, label, unit, inRecord, told: entry.value }];
  });
}

/** Fields of a record that a reading fills, each with its entry. */
export function firmwareFields(
  entries: readonly ValueEntry[],
): { field: keyof Printer; entry: ValueEntry; definition: FirmwareValue }[] {
  const entryOf = new Map(entries.map((entry) => [entry.id, entry]));
  const filled = new Set<keyof Printer>();
  return fieldOf.flatMap(([key, field]) => {
    const entry = entryOf.get(key);
    if (!entry || filled.has(field) || saysNothing(field, entry.value)) return [];
    filled.add(field);
    return [{ field, entry, definition: valueFor(entry.id)!.definition }];
  });
}

/** The field of a record in which a firmware value stands; undefined for those a record does not have. */
export function recordFieldOf(id: string): keyof Printer | undefined {
  return fieldOf.find(([key]) => key === id.split("@", 1)[0])?.[1];
}

/** What else is asked until a printer has told its values: the questions of all dialects, each once, the usual one first. */
export const everyValueQuestion: string[][] = [
  ...new Map(Object.values(dialects).map(({ valueQuestions }) => [valueQuestions.join(), valueQuestions])).values(),
];
