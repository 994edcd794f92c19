/** A plan as text: pasted from a spreadsheet, exported as CSV or JSON. */
import { refuse, Result, succeed } from "../result";
import { SettingKey, settingFor, settingKeys, SettingValues } from "../settings";
import { plainNumber, roundTo } from "../units";
import { Band, bandEdgesMm, HeightPlan, HIGHEST_BASE_MM, LOWEST_BAND_MM, MOST_BANDS, variedKeys } from "./plan";

/** What a column of pasted text holds. */
type Column = "fromMm" | "toMm" | SettingKey | "skip";

const columnNames: Record<string, Column> = {
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
 * otherwise. Tabs, semicolons, commas and spaces part columns; a comma between two digits is a decimal mark where another separator is
 * there.
 */
export function pasteBands(text: string, keys: readonly SettingKey[], plan: HeightPlan): Result<HeightPlan> {
  const read = readRows(text);
  if (!read.ok) return read;
  const { names, rows } = read.value;
  const width = rows[0].figures.length;
  const uneven = rows.findIndex(({ figures }) => figures.length !== width);
  if (uneven >= 0) {
    return refuse(`Row ${uneven + 1} has ${rows[uneven].figures.length} figures, the first has ${width}.`);
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
  const falling = starts.findIndex((start, i) => i > 0 && start - starts[i - 1] < LOWEST_BAND_MM);
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

/** The figures of every row, and the names of the columns if the first line holds some. */
function readRows(text: string): Result<{ names: string[] | null; rows: PastedRow[] }> {
  const rows: PastedRow[] = [];
  let names: string[] | null = null;
  for (const [index, line] of text.split(/\r?\n/).entries()) {
    if (rows.length === 0 && /[a-z]/i.test(line) && !/\d/.test(line)) {
      const cells = cellsOf(line).map((cell) => cell.toLowerCase());
      if (cells.some((cell) => columnNames[cell] !== undefined)) {
        names = cells;
        continue;
      }
    }
    if (!/\d/.test(line)) continue;
    const cells = cellsOf(line).map((cell) => cell.replace(/[^\d.,+-]/g, "").replace(",", "."));
    const figures = (names ? cells : cells.filter((cell) => cell !== "")).map((cell) =>
      cell === "" ? NaN : Number(cell),
    );
    if (figures.some((figure, i) => Number.isNaN(figure) && !(names && cells[i] === ""))) {
      return refuse(`Line ${index + 1}, “${line.trim().slice(0, 40)}”: these are not all numbers.`);
    }
    rows.push({ figures });
  }
  if (rows.length === 0) return refuse("There are no figures in what was pasted.");
  if (rows.length > MOST_BANDS) return refuse(`That is ${rows.length} bands; a plan has at most ${MOST_BANDS}.`);
  return succeed({ names, rows });
}

function cellsOf(line: string): string[] {
  const trimmed = line.trim();
  const separator = trimmed.includes("\t")
    ? "\t"
    : trimmed.includes(";")
      ? ";"
      : /[a-z]/i.test(trimmed) && trimmed.includes(",")
        ? ","
        : /\s/.test(trimmed)
          ? /\s+/
          : ",";
  return trimmed.split(separator).map((cell) => cell.trim());
}

function columnsFor(names: string[] | null, width: number, keys: readonly SettingKey[]): Result<Column[]> {
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
      `The rows have ${width} figures: a height and ${width - 1} values, but the plan varies ${keys.length === 1 ? "one setting" : `${keys.length} settings`}. Name the columns in a first line: height, ${settingKeys.slice(0, 3).join(", ")} …`,
    );
  }
  return succeed(["fromMm", ...keys.slice(0, width - 1)]);
}
