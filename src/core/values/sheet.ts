/** The values of a pair as a sheet: name, value, unit, what cannot be told from it. As text to copy, as CSV (RFC 4180), as start lines. */
import { sayValue, settingFor, settingKeys } from "../settings";
import type { Printer } from "../shelf/printer";
import { spoolTitle } from "../shelf/spool-title";
import type { Spool } from "../shelf/spool";
import type { KeptValue } from "../trials/kept";
import { plainNumber } from "../units";
import { csvOf } from "./csv";

export interface SheetRow {
  setting: string;
  name: string;
  value: number;
  unit: string;
  fromValue: number | null;
  toValue: number | null;
  keptAt: string;
  note: string;
}

export function sheetRows(kept: readonly KeptValue[]): SheetRow[] {
  return [...kept]
    .sort((a, b) => orderOf(a) - orderOf(b))
    .map(({ setting, value, fromValue, toValue, keptAt, note }) => {
      const { label, unit } = settingFor(setting);
      return { setting, name: label, value, unit, fromValue, toValue, keptAt, note };
    });
}

/** In the order in which settings are listed everywhere. */
const orderOf = ({ setting }: KeptValue) => settingKeys.indexOf(setting);

const sayRange = ({ fromValue, toValue }: SheetRow, decimals: number) =>
  fromValue === null || toValue === null
    ? ""
    : `${plainNumber(fromValue, decimals)} to ${plainNumber(toValue, decimals)}`;

/** A few lines that can be pasted anywhere. */
export function sheetText(printer: Printer, spool: Spool, kept: readonly KeptValue[]): string {
  const lines = sheetRows(kept).map((row) => {
    const range = sayRange(row, 4);
    const said = `${row.name}: ${plainNumber(row.value, 4)} ${row.unit}`.trim();
    return `${said}${range ? ` (good from ${range})` : ""}, ${row.keptAt.slice(0, 10)}`;
  });
  const head = `${spoolTitle(spool)} on ${printer.name}, ${plainNumber(printer.nozzleMm)} mm nozzle`;
  return `${[head, ...(lines.length > 0 ? lines : ["Nothing is kept yet."])].join("\n")}\n`;
}

const HEAD = ["name", "value", "unit", "good from", "good to", "kept", "note"];

/** CSV as RFC 4180 has it: comma, CRLF, quotes where they are needed. */
export function sheetCsv(kept: readonly KeptValue[]): string {
  const rows = sheetRows(kept).map(({ name, value, unit, fromValue, toValue, keptAt, note }) => [
    name,
    plainNumber(value, 6),
    unit,
    fromValue === null ? "" : plainNumber(fromValue, 6),
    toValue === null ? "" : plainNumber(toValue, 6),
    keptAt,
    note,
  ]);
  return csvOf([HEAD, ...rows]);
}

/** Lines that tell a printer the values its firmware keeps: for the start of a print, or to be typed. */
export function startLinesOf(printer: Printer, spool: Spool, kept: readonly KeptValue[]): string {
  const own = kept.filter(({ setting }) => settingFor(setting).outlives);
  const lines = own.flatMap(({ setting, value }) => {
    const said = settingFor(setting).say(value, printer, 0);
    if (!said.ok) return [`; ${sayValue(setting, value)}: ${said.message}`];
    return said.value.length > 0 ? [`; ${settingFor(setting).label} ${sayValue(setting, value)}`, ...said.value] : [];
  });
  const head = `; ${spoolTitle(spool)} on ${printer.name}`;
  return `${[head, ...(lines.length > 0 ? lines : ["; nothing is kept that the firmware holds"])].join("\n")}\n`;
}
