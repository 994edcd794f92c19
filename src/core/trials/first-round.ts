/** The first round of a kind, with the usual options where none are given. */
import { materials } from "../material/materials";
import { wideNozzleFactor } from "../material/rules";
import { optionsOf } from "../options/option";
import { SettingKey, sayValue, settingFor, settingKeys, SettingValues } from "../settings";
import { plainNumber } from "../units";
import { trialKindFor, TrialKindKey } from ".";
import { Round, RoundRequest } from "./kind";
import { ExpectedRanges, heldAsExpected, isNarrow } from "./expected";
import { narrowedAround, narrowedTo } from "./next-round";

/** Plan, fixed values and what printer or spool made other than usual; `options` may be partial. */
export function firstRound(kindKey: TrialKindKey, request: RoundRequest): Round {
  const kind = trialKindFor(kindKey);
  const options = optionsOf(kind.options, request.options, request.printer);
  const assumed = assumedIn(kind.setting(request.printer, options), request);
  const whole = kind.firstRound({ ...request, kept: { ...request.kept, ...assumed }, assumed, options });
  const round = aroundCarried(
    kindKey,
    { ...request, options },
    aroundExpected(kindKey, { ...request, options }, whole),
  );
  return { ...round, notes: [...round.notes, ...roomNotes(request)] };
}

/** What is not looked for and not kept, as earlier spools lead one to expect it. */
function assumedIn(
  setting: SettingKey,
  { printer, spool, kept, carried = {}, expected = {} }: RoundRequest,
): SettingValues {
  const known = settingKeys.filter((key) => key === setting || kept[key] !== undefined || carried[key] !== undefined);
  return heldAsExpected({ printer, spool }, expected, known);
}

/** Which fixed values of a trial are held for what earlier spools wanted: a sentence each. */
export function sayAssumed(
  pair: Pick<RoundRequest, "printer" | "spool">,
  { fixed, kept, expected }: { fixed: SettingValues; kept: SettingValues; expected: ExpectedRanges },
): string[] {
  const known = settingKeys.filter((key) => kept[key] !== undefined);
  return (Object.entries(heldAsExpected(pair, expected, known)) as [SettingKey, number][]).flatMap(([key, value]) =>
    fixed[key] === value
      ? [`${settingFor(key).label} is held at ${sayValue(key, value)}, not tried here: ${expected[key]!.why}.`]
      : [],
  );
}

/** Where earlier spools say the answer lies, if that is a good deal narrower than the usual range; kept values of the pair's own count more. */
function aroundExpected(
  kind: TrialKindKey,
  { printer, spool, options, kept, carried = {}, expected = {} }: RoundRequest,
  round: Round,
): Round {
  const { setting: settingOf, range, isChosen } = trialKindFor(kind);
  const setting = settingOf(printer, options);
  const known = expected[setting];
  if (isChosen || !known || kept[setting] !== undefined || carried[setting] !== undefined) return round;
  if (!isNarrow(known, range(printer, spool, options))) return round;
  const plan = narrowedTo({ kind, options, plan: round.plan }, { printer, spool }, known);
  if (!plan.ok) return round;
  const note = `${known.why}. This round asks from there, and says if the best is elsewhere.`;
  return { ...round, plan: plan.value, notes: [...round.notes, note] };
}

/** Narrower around a value that was taken over from another pair, where there is one. */
function aroundCarried(
  kind: TrialKindKey,
  { printer, spool, options, carried = {} }: RoundRequest,
  round: Round,
): Round {
  const { setting: settingOf, isChosen } = trialKindFor(kind);
  const setting = settingOf(printer, options);
  const value = carried[setting];
  if (isChosen || value === undefined) return round;
  const plan = narrowedAround({ kind, options, plan: round.plan }, { printer, spool }, value);
  if (!plan.ok) return round;
  const note = `${sayValue(setting, value)} was taken over from another pair and not tried here: this round asks narrowly around it.`;
  return { ...round, plan: plan.value, notes: [...round.notes, note] };
}

/** What wants a bed no warmer than this goes soft in a closed printer, °C. Common practice, no source. */
const SOFT_FROM_BED_C = 65;

/** What is to be said of any piece of this spool on this printer. */
function roomNotes({ printer, spool }: RoundRequest): string[] {
  const notes: string[] = [];
  const factor = wideNozzleFactor(printer.nozzleMm);
  if (factor > 1 && spool.smallestLayerSeconds > 0) {
    const seconds = plainNumber(spool.smallestLayerSeconds * factor, 1);
    notes.push(
      `Lines of a ${plainNumber(printer.nozzleMm)} mm nozzle hold their heat longer: a layer takes at least ${seconds} s instead of ${plainNumber(spool.smallestLayerSeconds)} s.`,
    );
  }
  if (materials[spool.material].warps && !printer.enclosed) {
    notes.push(
      `${spool.material} may warp in a draught, and ${printer.name} isn't enclosed. A wide brim is added; keep windows closed.`,
    );
  }
  if (spool.bedC <= SOFT_FROM_BED_C && printer.enclosed) {
    notes.push(`${printer.name} is closed: open its door for ${spool.material}, which goes soft in warm air and jams.`);
  }
  return notes;
}
