/** The rounds of one question, one narrower than the last: what each tried, and what was read of it. */
import { settingFor, SettingKey } from "../settings";
import type { Verdict } from "../reading/verdict";

export interface ChainRound {
  trialId: number;
  name: string;
  round: number;
  setting: SettingKey;
  values: number[];
  /** What its newest piece said; null while nothing was read. */
  found: Pick<Verdict, "value" | "fromValue" | "toValue"> | null;
}

/** The scale that all rounds of one setting share; null if there is none. */
export function scaleOfChain(
  rounds: readonly ChainRound[],
  setting: SettingKey,
): { low: number; high: number; unit: string } | null {
  const values = rounds.filter((one) => one.setting === setting).flatMap((one) => one.values);
  if (values.length === 0) return null;
  return { low: Math.min(...values), high: Math.max(...values), unit: settingFor(setting).unit };
}
