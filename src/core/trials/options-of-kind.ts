/** The options of a kind, one by one and together. */
import { checkOptions, OptionValues } from "../options/option";
import { refuse, Result } from "../result";
import { trialKindFor, TrialKindKey } from ".";

/** The given options if the kind knows them, they are in range, and can be had together; refused with field and reason otherwise. */
export function optionsOfKind(kindKey: TrialKindKey, given: OptionValues): Result<OptionValues> {
  const kind = trialKindFor(kindKey);
  const checked = checkOptions(kind.options, given);
  const why = checked.ok ? kind.refuses?.(given) : null;
  return why ? refuse(why.message, why.field) : checked;
}
