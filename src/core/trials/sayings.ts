/** What a trial's program says besides its moves, and where: at the start, before layers and moves, at the end. */
import { MoveTable, laysMaterial, MoveKind } from "../gcode/moves";
import { ResolvedBand } from "../heightplan/plan";
import { Followed } from "../heightplan/planned";
import { weaveBands } from "../heightplan/weave";
import type { OptionValues } from "../options/option";
import { SpotStart } from "../printing/pen";
import { Refusal } from "../result";
import { SettingKey, settingFor, settingKeys } from "../settings";
import { Printer } from "../shelf/printer";
import { Spool } from "../shelf/spool";
import { firstClaimed } from "./first-layers";
import { overAirFan } from "./over-air-fan";
import { Trial } from "./trial";

export type TrialRefusal = Refusal & { key?: SettingKey; band?: number };

/** Says settings in a printer's language; what it cannot be told is noted, each setting once. */
export class Sayings {
  readonly refusals: TrialRefusal[] = [];

  constructor(
    private readonly printer: Printer,
    private readonly spool: Spool,
    private readonly tool: number,
  ) {}

  /** The lines for one value; none where it cannot be said. */
  say(key: SettingKey, value: number): string[] {
    const said = settingFor(key).say(value, this.printer, this.tool);
    if (said.ok) return said.value;
    if (!this.refusals.some((refusal) => refusal.key === key)) this.refusals.push({ ...said, key });
    return [];
  }

  refuse(refusal: TrialRefusal): void {
    this.refusals.push(refusal);
  }

  /**
   * What outlives a print and must be said at its start: what is held fixed and is not the printer's own value anyway; and the factors, which no
   * firmware stores, for whatever was printed or broken off before may have left others. What the firmware stores is left alone.
   */
  atStart({ fixed }: Trial): string[] {
    return outliving.flatMap((key) => {
      const { usual, say, stored } = settingFor(key);
      const value = fixed[key];
      if (value !== undefined) return stored && this.isUsual(key, value) ? [] : this.say(key, value);
      const own = stored ? undefined : usual(this.printer, this.spool);
      const said = own === undefined ? null : say(own, this.printer, this.tool);
      return said?.ok ? said.value : [];
    });
  }

  /** What the trial changed in the firmware, set back to what the printer's page says, so that no later print is spoiled. */
  atEnd({ fixed, plan }: Trial, { planned }: Followed): string[] {
    return outliving.flatMap((key) => {
      const value = fixed[key];
      const isSaid = value !== undefined && !(settingFor(key).stored && this.isUsual(key, value));
      const changed = planned[key] !== undefined || plan.sideBySide?.setting === key || isSaid;
      return changed ? this.say(key, settingFor(key).usual(this.printer, this.spool)) : [];
    });
  }

  /** Whether a value is what the printer has anyway. */
  private isUsual(key: SettingKey, value: number): boolean {
    const { usual, tolerance } = settingFor(key);
    return Math.abs(usual(this.printer, this.spool) - value) <= tolerance;
  }

  /** The bands' lines by layer, and below them what changes behind the first layers. */
  beforeLayers(bands: readonly ResolvedBand[], followed: Followed, layerCount: number): Map<number, string[]> {
    const woven = weaveBands(bands, followed, this.printer, this.tool);
    this.refusals.push(...woven.refusals);
    const lines = new Map(woven.byLayer);
    for (const key of ["nozzleTemperature", "bedTemperature", "fan"] as const) {
      const values = followed.planned[key];
      // Below the bands; the first layer's are said by the start lines.
      for (let layer = 1; values && layer < firstClaimed(followed, key, layerCount); layer++) {
        if (Number.isNaN(values[layer]) || values[layer] === values[layer - 1]) continue;
        lines.set(layer, [...this.say(key, values[layer]), ...(lines.get(layer) ?? [])]);
      }
    }
    return lines;
  }

  /** Lines in front of single moves: more fan over air, and the values of spots side by side. */
  beforeMoves(
    moves: MoveTable,
    layerStarts: readonly number[],
    spotStarts: readonly SpotStart[],
    followed: Followed,
    { fixed, plan: { sideBySide } }: Trial,
    options: OptionValues,
  ): Map<number, string> {
    const lines = new Map<number, string>();
    const layerCount = layerStarts.length - 1;
    const fanFrom = followed.planned.fan?.findIndex((value) => value > 0) ?? -1;
    if (fixed.fan !== undefined && fanFrom >= 0 && firstClaimed(followed, "fan", layerCount) === layerCount) {
      const more = overAirFan(fixed.fan, options);
      if (more !== fixed.fan && fixed.fan > 0) {
        const [over, behind] = [this.say("fan", more)[0], this.say("fan", fixed.fan)[0]];
        coolBridges(moves, layerStarts.slice(fanFrom), lines, over && `${over} ; cuchara: over air`, behind);
      }
    }
    for (const { move, spot } of sideBySide ? spotStarts : []) {
      const value = sideBySide!.values[spot];
      const said = value === undefined ? [] : this.say(sideBySide!.setting, value);
      const before = lines.get(move);
      if (said.length > 0) lines.set(move, [...(before ? [before] : []), ...said].join("\n"));
    }
    return lines;
  }
}

/** Settings that the firmware keeps when a print is over. */
const outliving = settingKeys.filter((key) => settingFor(key).outlives);

/** More fan for the strands over air, back to the usual behind them. */
function coolBridges(
  moves: MoveTable,
  layerStarts: readonly number[],
  lines: Map<number, string>,
  more: string | undefined,
  usual: string | undefined,
): void {
  if (more === undefined || usual === undefined) return;
  let cooling = false;
  for (let i = layerStarts[0]; i < moves.count; i++) {
    const kind = moves.kind[i];
    if (kind === MoveKind.bridge && !cooling) {
      lines.set(i, more);
      cooling = true;
    } else if (cooling && laysMaterial(kind) && kind !== MoveKind.bridge && !bridgeSoon(moves, i)) {
      lines.set(i, usual);
      cooling = false;
    }
  }
  if (cooling) lines.set(layerStarts[layerStarts.length - 1] - 1, usual);
}

/** Whether a strand follows within a few moves: the fan is not worth switching for the way round at the edge. */
function bridgeSoon(moves: MoveTable, from: number): boolean {
  for (let i = from; i < Math.min(moves.count, from + 12); i++) if (moves.kind[i] === MoveKind.bridge) return true;
  return false;
}
