/** What the bench says of each question for the pair on it: asked or not, kept or not, and which is next. */
import { optionsOf } from "../options/option";
import { SettingKey, settingFor, SettingValues } from "../settings";
import type { Printer } from "../shelf/printer";
import type { Spool } from "../shelf/spool";
import type { BriefTrial, TrialState } from "./brief";
import { trialKindFor, TrialKindKey, trialKindKeys } from ".";
import { unsettled } from "./need";

export interface BenchRow {
  kind: TrialKindKey;
  label: string;
  /** The first sentence of what it finds out, and all of it. */
  says: string;
  explains: string;
  setting: SettingKey;
  unit: string;
  decimals: number;
  /** The range the value is looked for in; `labelled` if it stands on the spool's label. */
  low: number;
  high: number;
  labelled: boolean;
  kept: { value: number; keptAt: string } | null;
  /** Trials of this pair, and the values the latest of them tries. */
  count: number;
  latest: { id: number; name: string; updatedAt: string; values: number[]; state: TrialState } | null;
  /** What should be settled before; empty if all is. */
  needs: string;
  /** The first question whose answer is not kept. */
  isNext: boolean;
}

export interface BenchKnown {
  printer: Printer & { id: number };
  spool: Spool & { id: number };
  kept: readonly { setting: SettingKey; value: number; keptAt: string }[];
  /** Tunes that were measured on the printer. */
  measured: ReadonlySet<string>;
  trials: readonly BriefTrial[];
}

/** The rows in the order of work. */
export function benchRows({ printer, spool, kept, measured, trials }: BenchKnown): BenchRow[] {
  const keptValues = Object.fromEntries(kept.map(({ setting, value }) => [setting, value])) as SettingValues;
  const own = trials.filter(({ printerId, spoolId }) => printerId === printer.id && spoolId === spool.id);
  const rows = trialKindKeys.map((key): BenchRow => {
    const kind = trialKindFor(key);
    const setting = kind.setting(printer, optionsOf(kind.options, {}, printer));
    const { unit, decimals } = settingFor(setting);
    const asked = own.filter((trial) => trial.kind === key);
    const [latest] = asked;
    const found = kept.find((one) => one.setting === setting);
    const values =
      latest?.setting === setting ? latest.bands.flatMap(([, value]) => (value === null ? [] : [value])) : [];
    return {
      kind: key,
      label: kind.label,
      says: kind.explains.slice(0, kind.explains.indexOf(". ") + 1),
      explains: kind.explains,
      setting,
      unit,
      decimals,
      ...kind.range(printer, spool),
      labelled: setting === "nozzleTemperature",
      kept: found ? { value: found.value, keptAt: found.keptAt } : null,
      count: asked.length,
      latest: latest
        ? {
            id: latest.id,
            name: latest.name,
            updatedAt: latest.updatedAt,
            values: [...new Set(values)],
            state: latest.state,
          }
        : null,
      needs: unsettled(kind.needs, keptValues, measured),
      isNext: false,
    };
  });
  const next = rows.find((row) => row.kept === null);
  return rows.map((row) => ({ ...row, isNext: row === next }));
}
