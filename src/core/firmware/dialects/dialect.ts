/** What a printer's language can do, under a neutral name. */
import { Result } from "../../result";

export interface FanIndex {
  /** Fan index to name in the command, or null where there is one fan only. */
  index: number | null;
}

export interface Dialect {
  label: string;
  /** One sentence for the person who must choose. */
  explains: string;
  /** Whether the part fan has a duty, or is only on or off. */
  fanHasDuty: boolean;
  /** Which cornering value the firmware has. */
  cornering: "jerk" | "junctionDeviation";
  /** The line that sets the part fan to a duty of 0–255. */
  fanLine(duty: number, fan: FanIndex): Result<string>;
}

/** `M106` and `M107` with a duty, as most dialects have them. */
export function dutyFanLine(duty: number, { index }: FanIndex): Result<string> {
  const named = index === null ? "" : ` P${index}`;
  return { ok: true, value: duty === 0 ? `M107${named}` : `M106${named} S${duty}` };
}
