/** What the bench says of each question for the pair on it: asked or not, kept or not, and which is next. */
import { optionsOf } from "../options/option";
import { SettingKey, settingFor, SettingValues } from "../settings";
import type { Printer } from "../shelf/printer";
import type { Spool } from "../shelf/spool";
import type { BriefTrial, TrialState } from "./brief";
import { trialKindFor, TrialKindKey, roadKindKeys } from ".";
import { Expected, isNarrow } from "./expected";
import type { KeptValue } from "./kept";
import { unsettled } from "./need";
import { Around, whyStale } from "./stale";

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
  kept: Pick<KeptValue, "id" | "value" | "fromValue" | "toValue" | "keptAt" | "note"> | null;
  /** What earlier spools lead one to expect, while the pair has no answer of its own; `isAsked` if the first round asks there only. */
  expected: (Pick<Expected, "value" | "fromValue" | "toValue" | "why"> & { isAsked: boolean }) | null;
  /** How far the question has come, and why it is to be asked again where it is. */
  state: QuestionState;
  why: string[];
  /** When it was kept or printed last, for its age; null if never. */
  at: string | null;
  /** Trials of this pair, and the values the latest of them tries. */
  count: number;
  latest: { id: number; name: string; updatedAt: string; values: number[]; state: TrialState } | null;
  /** What should be settled before; empty if all is. */
  needs: string;
  /** The first question whose answer is not kept. */
  isNext: boolean;
}

/**
 * `never` asked, `planned` and not printed yet, `printing` now, `waiting` to be read or kept, `kept`, `carried` over from another pair and
 * not tried here, `stale`.
 */
export type QuestionState = "never" | "planned" | "printing" | "waiting" | "kept" | "carried" | "stale";

export interface BenchKnown extends Around {
  printer: Printer & { id: number };
  spool: Spool & { id: number };
  trials: readonly BriefTrial[];
  /** The trial that is being printed on the printer. */
  printing: number | null;
  /** By setting, what earlier spools lead one to expect. */
  expected?: Partial<Record<SettingKey, Expected>>;
}

/** The rows in the order of work. */
export function benchRows(known: BenchKnown): BenchRow[] {
  const { printer, spool, kept, measuredAt, trials, printing } = known;
  const measured = new Set(measuredAt.keys());
  const keptValues = Object.fromEntries(kept.map(({ setting, value }) => [setting, value])) as SettingValues;
  const own = trials.filter(({ printerId, spoolId }) => printerId === printer.id && spoolId === spool.id);
  const rows = roadKindKeys.map((key): BenchRow => {
    const kind = trialKindFor(key);
    const setting = kind.setting(printer, optionsOf(kind.options, {}, printer));
    const { unit, decimals } = settingFor(setting);
    const range = kind.range(printer, spool, {});
    const asked = own.filter((trial) => trial.kind === key);
    const [latest] = asked;
    const found = kept.find((one) => one.setting === setting);
    const expected = found ? undefined : known.expected?.[setting];
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
      ...range,
      labelled: setting === "nozzleTemperature",
      kept: found ?? null,
      expected: expected ? { ...expected, isAsked: isNarrow(expected, range) } : null,
      ...stateOfQuestion(found, asked, found ? whyStale(found, kind.needs, known) : [], printing),
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
  const next = rows.find(({ state }) => state !== "kept" && state !== "printing");
  return rows.map((row) => ({ ...row, isNext: row === next }));
}

function stateOfQuestion(
  found: KeptValue | undefined,
  [latest, ...earlier]: readonly BriefTrial[],
  why: string[],
  printing: number | null,
): Pick<BenchRow, "state" | "why" | "at"> {
  const at = found?.keptAt ?? latest?.updatedAt ?? null;
  if ([latest, ...earlier].some((trial) => trial?.id === printing)) return { state: "printing", why: [], at };
  // A piece that was printed or read since waits for its answer, whatever was kept before.
  const isWaiting = latest?.state === "printed" || latest?.state === "read";
  if (isWaiting && (!found || latest.updatedAt > found.keptAt))
    return { state: "waiting", why: [], at: latest.updatedAt };
  if (why.length > 0) return { state: "stale", why, at };
  if (found) return { state: found.carriedFrom === null ? "kept" : "carried", why: [], at };
  if (isWaiting) return { state: "waiting", why: [], at };
  return { state: latest ? "planned" : "never", why: [], at };
}
