/** A plan as text: pasted from a spreadsheet, exported as CSV or JSON. */
import { refuse, Result, succeed } from "../result";
import { SettingKey, settingFor, settingKeys, SettingValues } from "../settings";
import { plainNumber, roundTo, toMicrometres } from "../units";
import { Band, bandEdgesMm, HeightPlan, HIGHEST_BASE_MM, LOWEST_BAND_MM, MOST_BANDS, variedKeys } from "./plan";

/** What a column of pasted text holds. */
type PastedColumn = "fromMm" | "toMm" | SettingKey | "skip";

const columnNames: Record<string, PastedColumn> = {
  from: "fromMm",
  "from mm": "fromMm",
  frommm: "fromMm",
  height: "fromMm",
  "height mm": "fromMm",
  mm: "fromMm",
  to: "toMm",
  "to mm": "toMm",
  tomm: "toMm",
  band: "skip",
  ...Object.fromEntries(
    settingKeys.flatMap((key) => {
      const { label, short, unit } = settingFor(key);
      return [key, label, short, `${label} ${unit}`, `${short} ${unit}`].map((name) => [name.toLowerCase(), key]);
    }),
  ),
};

/** The plan's bands as CSV: where each starts and ends in mm, and a column a setting. It can be pasted back. */
export function planToCsv(plan: HeightPlan): string {
  const keys = variedKeys(plan.bands);
  const edges = bandEdgesMm(plan);
  const rows = plan.bands.map(({ settings }, i) => {
    const values = keys.map((key) => (settings[key] === undefined ? "" : plainNumber(settings[key], 4)));
    return [plainNumber(edges[i], 4), plainNumber(edges[i + 1], 4), ...values].join(",");
  });
  return [["fromMm", "toMm", ...keys].join(","), ...rows, ""].join("\n");
}

/** The plan as JSON, in the form the HTTP interface takes it. */
export function planToJson(plan: HeightPlan): string {
  return `${JSON.stringify(plan, null, 2)}\n`;
}

/**
 * Reads bands from pasted text, bottom first. One column: values of the first of `keys` (heights stay as they are, the last one
 * repeated). More columns: the height where a band starts, then values of `keys` in their order; a first line with names says
 * otherwise. How its cells are parted is seen from the whole block, never line by line (see `readingsOf`).
 */
export function pasteBands(text: string, keys: readonly SettingKey[], plan: HeightPlan): Result<HeightPlan> {
  let first: Result<HeightPlan> | null = null;
  for (const reading of readingsOf(text)) {
    const read = readRows(text, reading);
    const result = read.ok ? bandsOf(read.value, keys, plan) : read;
    if (result.ok) return result;
    first ??= result;
  }
  return first ?? refuse("There are no numbers in what you pasted.");
}

function bandsOf({ names, rows }: PastedRows, keys: readonly SettingKey[], plan: HeightPlan): Result<HeightPlan> {
  const width = rows[0].figures.length;
  const uneven = rows.findIndex(({ figures }) => figures.length !== width);
  if (uneven >= 0) {
    return refuse(`Row ${uneven + 1} has ${sayNumbers(rows[uneven].figures.length)}, the first has ${width}.`);
  }
  const columns = columnsFor(names, width, keys);
  if (!columns.ok) return columns;
  const bands: Band[] = [];
  for (const [i, { figures }] of rows.entries()) {
    const settings: SettingValues = {};
    for (const [at, column] of columns.value.entries()) {
      if (column === "fromMm" || column === "toMm" || column === "skip") continue;
      const { lowest, highest, unit } = settingFor(column);
      const value = figures[at];
      if (Number.isNaN(value)) continue;
      if (value < lowest || value > highest) {
        return refuse(`Row ${i + 1}: ${plainNumber(value)} is outside ${lowest} to ${highest} ${unit}.`);
      }
      settings[column] = value;
    }
    bands.push({ heightMm: plan.bands[Math.min(i, plan.bands.length - 1)].heightMm, settings });
  }
  const from = columns.value.indexOf("fromMm");
  if (from < 0) return succeed({ ...plan, bands });
  const to = columns.value.indexOf("toMm");
  const starts = rows.map(({ figures }) => figures[from]);
  const noHeight = starts.findIndex(Number.isNaN);
  if (noHeight >= 0) return refuse(`Row ${noHeight + 1} does not say at which height its band starts.`);
  return withHeights({ ...plan, bands }, starts, to < 0 ? undefined : rows[rows.length - 1].figures[to]);
}

function withHeights(plan: HeightPlan, starts: number[], endMm: number | undefined): Result<HeightPlan> {
  const falling = starts.findIndex(
    (start, i) => i > 0 && toMicrometres(start) - toMicrometres(starts[i - 1]) < toMicrometres(LOWEST_BAND_MM),
  );
  if (falling > 0) {
    return refuse(
      `Row ${falling + 1} starts at ${plainNumber(starts[falling])} mm: heights must rise by at least ${LOWEST_BAND_MM} mm a row.`,
    );
  }
  if (starts[0] < 0 || starts[0] > HIGHEST_BASE_MM) {
    return refuse(
      `The first band starts at ${plainNumber(starts[0])} mm; the base can be 0 to ${HIGHEST_BASE_MM} mm high.`,
    );
  }
  const top = starts[starts.length - 1];
  const usual = starts.length > 1 ? top - starts[starts.length - 2] : plan.bands[0].heightMm;
  const last = endMm !== undefined && endMm - top >= LOWEST_BAND_MM ? endMm - top : usual;
  const bands = plan.bands.map((band, i) => ({
    ...band,
    heightMm: roundTo(i + 1 < starts.length ? starts[i + 1] - starts[i] : last, 6),
  }));
  return succeed({ ...plan, baseHeightMm: starts[0], bands });
}

interface PastedRow {
  /** NaN where a named column is left empty: the band does not set it. */
  figures: number[];
}

interface PastedRows {
  names: string[] | null;
  rows: PastedRow[];
}

/** How a block of text may be meant: what parts its cells, and whether a comma is a decimal mark in them. */
interface BlockReading {
  cellsOf(line: string): string[];
  decimalComma: boolean;
}

/**
 * The ways a block can be meant, likeliest first. Tabs and semicolons part cells, and commas are decimal marks beside them; so are they
 * where spaces part the figures. Cells in quotes, or commas with a space behind, are parted by commas. Bare commas can be either.
 */
function readingsOf(text: string): BlockReading[] {
  const by = (separator: string | RegExp, decimalComma: boolean): BlockReading => ({
    cellsOf: (line) =>
      line
        .trim()
        .split(separator)
        .map((cell) => cell.trim()),
    decimalComma,
  });
  const lines = text.split(/\r\n|\r|\n/).filter((line) => line.trim() !== "");
  const some = (pattern: RegExp) => lines.some((line) => pattern.test(line));
  if (some(/\t/)) return [by("\t", true)];
  if (some(/;/)) return [by(";", true)];
  if (some(/"/)) return [{ cellsOf: quotedCells, decimalComma: true }];
  const commas = by(",", false);
  if (some(/,\s/) || some(/[a-z]\s*,/i)) return [commas];
  if (some(/\d\s+[-+−\d]/) || some(/\s[a-z°]/i)) return [by(/\s+/, true)];
  return some(/,/) ? [commas, by(/\s+/, true)] : [by(/\s+/, false)];
}

/** `"1,5","220,5"`: commas between quotes part nothing. */
function quotedCells(line: string): string[] {
  return [...line.trim().matchAll(/"([^"]*)"|[^,"]+/g)]
    .map(([bare, quoted]) => (quoted ?? bare).trim())
    .filter(Boolean);
}

/** The figures of every row, and the names of the columns if the first line holds some. */
function readRows(text: string, { cellsOf, decimalComma }: BlockReading): Result<PastedRows> {
  const rows: PastedRow[] = [];
  let names: string[] | null = null;
  for (const [index, line] of text.split(/\r\n|\r|\n/).entries()) {
    if (rows.length === 0 && /[a-z]/i.test(line) && !/\d/.test(line)) {
      const cells = cellsOf(line).map((cell) => cell.toLowerCase());
      if (cells.some((cell) => columnNames[cell] !== undefined)) {
        names = cells;
        continue;
      }
    }
    if (!/\d/.test(line)) continue;
    // Units may stand in cells of their own; under named columns an empty cell is a value that is not set.
    const cells = cellsOf(line).filter((cell) => names !== null || /\d/.test(cell));
    const figures = cells.map((cell) => figureIn(cell, decimalComma));
    const wrong = figures.findIndex((figure, i) => Number.isNaN(figure) && !(names && !/\d/.test(cells[i])));
    if (wrong >= 0) {
      return refuse(`Line ${index + 1}, “${line.trim().slice(0, 40)}”: these are not all numbers.`);
    }
    rows.push({ figures });
  }
  if (rows.length === 0) return refuse("There are no numbers in what you pasted.");
  if (rows.length > MOST_BANDS) return refuse(`That is ${rows.length} bands; a plan has at most ${MOST_BANDS}.`);
  return succeed({ names, rows });
}

/** The figure in a cell, with or without a unit behind it; NaN if there is none. A typographic minus is one too. */
function figureIn(cell: string, decimalComma: boolean): number {
  const found = /^[^\d.,+-]*([-+]?[\d.,]+(?:e[-+]?\d+)?)[^\d]*$/i.exec(cell.replace("−", "-"));
  return found ? Number(decimalComma ? found[1].replace(",", ".") : found[1]) : NaN;
}

function columnsFor(names: string[] | null, width: number, keys: readonly SettingKey[]): Result<PastedColumn[]> {
  if (names) {
    const unknown = names.findIndex((name) => columnNames[name] === undefined);
    if (unknown >= 0) {
      return refuse(
        `“${names[unknown].slice(0, 40)}” is not a column; the columns are height, to and ${settingKeys.join(", ")}.`,
      );
    }
    if (names.length !== width) return refuse(`The first line names ${names.length} columns, the rows have ${width}.`);
    return succeed(names.map((name) => columnNames[name]));
  }
  if (keys.length === 0) return refuse("The bands of this plan set nothing: name the columns in a first line.");
  if (width === 1) return succeed([keys[0]]);
  if (width - 1 > keys.length) {
    return refuse(
      `The rows have ${width} numbers: a height and ${width - 1} values, but the plan varies ${keys.length === 1 ? "one setting" : `${keys.length} settings`}. Name the columns in a first line: height, ${settingKeys.slice(0, 3).join(", ")} …`,
    );
  }
  return succeed(["fromMm", ...keys.slice(0, width - 1)]);
}

const sayNumbers = (count: number) => `${count} ${count === 1 ? "number" : "numbers"}`;
