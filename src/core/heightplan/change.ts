/** Changes to a plan as people make them: pure, so that undo is just keeping the plan from before. */
import { refuse, Result, succeed } from "../result";
import { SettingKey, settingFor, SettingValues } from "../settings";
import { clamp, plainNumber, roundTo } from "../units";
import { Band, bandEdgesMm, HeightPlan, MOST_BANDS } from "./plan";

const LOWEST_BAND_MM = 0.4;
const HIGHEST_BASE_MM = 50;

/** Sets one value of one band (index from 0). */
export function setValue(plan: HeightPlan, index: number, key: SettingKey, value: number): HeightPlan {
  return {
    ...plan,
    bands: plan.bands.map((band, i) =>
      i === index ? { ...band, settings: { ...band.settings, [key]: value } } : band,
    ),
  };
}

/** Sets the height of one band, mm; the bands above move with it. */
export function setBandHeight(plan: HeightPlan, index: number, heightMm: number): HeightPlan {
  return { ...plan, bands: plan.bands.map((band, i) => (i === index ? { ...band, heightMm } : band)) };
}

/**
 * Moves the lower edge of a band (index from 0) to a height, in tenths of a millimetre. The band below gives or takes the
 * room; below the first band it is the base. Held where a neighbour would become lower than a band may be.
 */
export function moveEdge(plan: HeightPlan, index: number, toMm: number): HeightPlan {
  const edges = bandEdgesMm(plan);
  const lowest = index === 0 ? 0 : edges[index - 1] + LOWEST_BAND_MM;
  const highest = edges[index + 1] - LOWEST_BAND_MM;
  const edge = roundTo(clamp(toMm, lowest, index === 0 ? Math.min(highest, HIGHEST_BASE_MM) : highest), 1);
  const shift = roundTo(edge - edges[index], 6);
  const bands = plan.bands.map((band, i) => {
    if (i === index) return { ...band, heightMm: roundTo(band.heightMm - shift, 6) };
    if (i === index - 1) return { ...band, heightMm: roundTo(band.heightMm + shift, 6) };
    return band;
  });
  return { baseHeightMm: index === 0 ? edge : plan.baseHeightMm, bands };
}

/** Adds a band on top, one step on from the last two. */
export function addBand(plan: HeightPlan, key: SettingKey): HeightPlan {
  const { lowest, highest, step } = settingFor(key);
  const last = plan.bands[plan.bands.length - 1];
  const before = plan.bands[plan.bands.length - 2];
  const value = last.settings[key];
  const settings: SettingValues = { ...last.settings };
  if (value !== undefined) {
    const difference = before?.settings[key] === undefined ? -step : value - before.settings[key]!;
    settings[key] = clamp(roundTo(value + (difference || -step), 3), lowest, highest);
  }
  return { ...plan, bands: [...plan.bands, { heightMm: last.heightMm, settings }] };
}

/** Takes a band out; the last one stays. */
export function removeBand(plan: HeightPlan, index: number): HeightPlan {
  return plan.bands.length <= 1 ? plan : { ...plan, bands: plan.bands.filter((_, i) => i !== index) };
}

/** Bands from a start value in even steps, all of one height. */
export function fillBands(key: SettingKey, start: number, step: number, count: number, heightMm: number): Band[] {
  const { lowest, highest, decimals } = settingFor(key);
  return Array.from({ length: clamp(Math.round(count), 1, MOST_BANDS) }, (_, i) => ({
    heightMm,
    settings: { [key]: clamp(roundTo(start + i * step, decimals), lowest, highest) },
  }));
}

/**
 * Reads bands from pasted text: one column of values (heights stay as they are, the last one repeated), or two columns, the
 * height where a band starts and its value. Tabs, semicolons, commas and spaces part columns; a comma between two digits is a
 * decimal mark where another separator is there. Lines without figures (headings) are passed over.
 */
export function pasteBands(text: string, key: SettingKey, plan: HeightPlan): Result<HeightPlan> {
  const setting = settingFor(key);
  const rows: number[][] = [];
  for (const [index, line] of text.split(/\r?\n/).entries()) {
    if (!/\d/.test(line)) continue;
    const separator = line.includes("\t") ? "\t" : line.includes(";") ? ";" : /\s/.test(line.trim()) ? /\s+/ : ",";
    const cells = line
      .trim()
      .split(separator)
      .map((cell) => cell.replace(/[^\d.,+-]/g, "").replace(",", "."))
      .filter((cell) => cell !== "");
    const figures = cells.map(Number);
    if (figures.some(Number.isNaN))
      return refuse(`Line ${index + 1}, “${line.trim().slice(0, 40)}”: these are not all numbers.`);
    if (figures.length === 0 || figures.length > 2) {
      return refuse(
        `Line ${index + 1} has ${figures.length} figures. Paste one column of values, or two: height in mm and value.`,
      );
    }
    rows.push(figures);
  }
  if (rows.length === 0) return refuse("There are no figures in what was pasted.");
  if (rows.length > MOST_BANDS) return refuse(`That is ${rows.length} bands; a plan has at most ${MOST_BANDS}.`);
  const columns = rows[0].length;
  const uneven = rows.findIndex((row) => row.length !== columns);
  if (uneven >= 0) return refuse(`Row ${uneven + 1} has ${rows[uneven].length} figures, the first has ${columns}.`);
  const values = rows.map((row) => row[columns - 1]);
  const wrong = values.findIndex((value) => value < setting.lowest || value > setting.highest);
  if (wrong >= 0) {
    return refuse(
      `Row ${wrong + 1}: ${plainNumber(values[wrong])} is outside ${setting.lowest} to ${setting.highest} ${setting.unit}.`,
    );
  }
  if (columns === 1) {
    const bands = values.map((value, i) => ({
      heightMm: plan.bands[Math.min(i, plan.bands.length - 1)].heightMm,
      settings: { [key]: value },
    }));
    return succeed({ ...plan, bands });
  }
  const starts = rows.map(([start]) => start);
  const falling = starts.findIndex((start, i) => i > 0 && start - starts[i - 1] < LOWEST_BAND_MM);
  if (falling > 0) {
    return refuse(
      `Row ${falling + 1} starts at ${plainNumber(starts[falling])} mm: heights must rise by at least ${LOWEST_BAND_MM} mm a row.`,
    );
  }
  if (starts[0] < 0 || starts[0] > HIGHEST_BASE_MM)
    return refuse(
      `The first band starts at ${plainNumber(starts[0])} mm; the base can be 0 to ${HIGHEST_BASE_MM} mm high.`,
    );
  const last = starts.length > 1 ? starts[starts.length - 1] - starts[starts.length - 2] : plan.bands[0].heightMm;
  const bands = starts.map((start, i) => ({
    heightMm: roundTo(i + 1 < starts.length ? starts[i + 1] - start : last, 6),
    settings: { [key]: values[i] },
  }));
  return succeed({ baseHeightMm: starts[0], bands });
}
