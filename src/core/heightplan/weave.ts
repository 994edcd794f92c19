/** A plan → the lines that must stand before each layer. */
import { cucharaComment } from "../gcode/comments";
import { Refusal } from "../result";
import { SettingKey, settingFor, settingKeys } from "../settings";
import { Printer } from "../shelf/printer";
import { plainNumber } from "../units";
import { ResolvedBand } from "./plan";

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
  return { lines: said.value.map((line) => `${line} ${comment}`) };
}

/** The lines for the bands of a plan; each band says all its settings where it starts. */
export function weaveBands(bands: readonly ResolvedBand[], printer: Printer, tool: number): WovenLines {
  const byLayer = new Map<number, string[]>();
  const refusals: WovenLines["refusals"] = [];
  for (const band of bands) {
    if (band.lastLayer < band.firstLayer) continue;
    for (const key of settingKeys) {
      const value = band.settings[key];
      if (value === undefined) continue;
      const place = { number: band.number, count: bands.length, fromMm: band.fromMm };
      const said = sayWithComment(key, value, place, printer, tool);
      if ("lines" in said) byLayer.set(band.firstLayer, [...(byLayer.get(band.firstLayer) ?? []), ...said.lines]);
      else if (!refusals.some((refusal) => refusal.key === key)) refusals.push({ ...said, key, band: band.number });
    }
  }
  return { byLayer, refusals };
}
