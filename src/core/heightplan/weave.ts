/** A plan → the lines that must stand before each layer. */
import { cucharaComment } from "../gcode/comments";
import { Refusal } from "../result";
import { SettingKey, settingFor, settingKeys } from "../settings";
import { Printer } from "../shelf/printer";
import { plainNumber } from "../units";
import { FREE_LINE_WORD } from "../settings/free-lines";
import { ResolvedBand } from "./plan";
import { Followed } from "./planned";

export interface WovenLines {
  /** Layer index → lines, in the order they take effect. */
  byLayer: Map<number, string[]>;
  /** Settings this printer cannot be told, each once. */
  refusals: (Refusal & { key: SettingKey; band: number })[];
}

/** The line or lines that set `key` for a band, with the comment by which they are found again. */
export function sayWithComment(
  key: SettingKey,
  value: number,
  place: { number: number; count: number; fromMm: number },
  printer: Printer,
  tool: number,
): { lines: string[] } | Refusal {
  const setting = settingFor(key);
  const said = setting.say(value, printer, tool);
  if (!said.ok) return said;
  const what = `${setting.short} ${plainNumber(value, setting.decimals)}`;
  const comment = cucharaComment(place.number, place.count, what, plainNumber(place.fromMm));
  // What lives inside the moves has no line of its own; a comment says where it begins.
  if (said.value.length === 0) return { lines: [comment] };
  return { lines: said.value.map((line) => `${line} ${comment}`) };
}

/**
 * The lines for the bands of a plan. Each band says all its settings where it starts; where a value changes inside a band (over
 * air, or a nozzle that must start early) it is said there too.
 */
export function weaveBands(
  bands: readonly ResolvedBand[],
  { planned, followed }: Followed,
  printer: Printer,
  tool: number,
): WovenLines {
  const byLayer = new Map<number, string[]>();
  const refusals: WovenLines["refusals"] = [];
  const put = (layer: number, lines: string[]) => byLayer.set(layer, [...(byLayer.get(layer) ?? []), ...lines]);
  for (const key of settingKeys) {
    const values = planned[key];
    const who = followed[key];
    if (!values || !who) continue;
    for (let layer = 0; layer < values.length; layer++) {
      if (who[layer] < 0 || Number.isNaN(values[layer])) continue;
      if (layer > 0 && who[layer] === who[layer - 1] && values[layer] === values[layer - 1]) continue;
      const band = bands[who[layer]];
      const place = { number: band.number, count: bands.length, fromMm: band.fromMm };
      const said = sayWithComment(key, values[layer], place, printer, tool);
      if ("lines" in said) put(layer, said.lines);
      else if (!refusals.some((refusal) => refusal.key === key)) refusals.push({ ...said, key, band: band.number });
    }
  }
  for (const { number, lines, firstLayer, lastLayer, fromMm } of bands) {
    if (!lines || lastLayer < firstLayer) continue;
    put(firstLayer, freeLines(lines, { number, count: bands.length, fromMm }));
  }
  return { byLayer, refusals };
}

/** Lines of the user's own with the mark by which they are found again. */
export function freeLines(
  lines: readonly string[],
  place: { number: number; count: number; fromMm: number },
): string[] {
  const comment = cucharaComment(place.number, place.count, FREE_LINE_WORD, plainNumber(place.fromMm));
  return lines.map((line) => `${line} ${comment}`);
}
