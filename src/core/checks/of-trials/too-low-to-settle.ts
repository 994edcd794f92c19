import { plainNumber } from "../../units";
import { Mend } from "../../findings/finding";
import type { ResolvedBand } from "../../heightplan/plan";
import type { ProgramReport } from "../../report/report";
import { Check } from "../check";
import { sayBands } from "../say";

/** Share of its height in which a band must be settled to tell something. */
const ENOUGH_SHARE = 0.6;

/**
 * Height that passes before a band settles once it is taller, mm. The time it takes stays, but it passes in the piece's quickest layers:
 * decks with their long ones are a smaller part of a taller band.
 */
function unsettledMm(
  { band, share }: { band: ResolvedBand; share: number },
  bands: readonly ResolvedBand[],
  { layers }: ProgramReport,
): number {
  const own = layers.slice(band.firstLayer, band.lastLayer + 1);
  const late = own.slice(0, Math.ceil((1 - share) * own.length));
  const quickest = layers
    .slice(bands[0].firstLayer)
    .reduce((least, { seconds, heightMm }) => Math.min(least, seconds / heightMm), Infinity);
  return late.reduce((sum, { seconds }) => sum + seconds, 0) / quickest;
}

/** Bands so low that the nozzle has not reached their temperature for most of them. */
export const tooLowToSettle: Check = {
  key: "too-low-to-settle",
  passes: ({ lead }) => (lead ? "The nozzle settles within every band." : null),
  run({ bands, bandSettled, lead, trial, report }) {
    if (!bands.some(({ settings }) => settings.nozzleTemperature !== undefined)) return [];
    const low = bands
      .map((band, i) => ({ band, share: bandSettled[i] }))
      .filter(({ band, share }) => band.lastLayer >= band.firstLayer && share < ENOUGH_SHARE);
    if (low.length === 0) return [];
    const worst = low.reduce((a, b) => (b.share < a.share ? b : a));
    const wanted = Math.ceil(unsettledMm(worst, bands, report) / (1 - ENOUGH_SHARE) + 0.5);
    const taller: Mend = {
      label: `Make every band ${wanted} mm high`,
      trial: {
        plan: {
          ...trial.plan,
          bands: trial.plan.bands.map((band) => ({ ...band, heightMm: Math.max(band.heightMm, wanted) })),
        },
      },
    };
    const helps = lead !== null && lead.layers !== trial.leadLayers && lead.share > worst.share + 0.02;
    const earlier: Mend | null = helps
      ? {
          label: `Tell the nozzle ${lead.layers} layer${lead.layers === 1 ? "" : "s"} early`,
          trial: trial.toldEarlier(lead.layers),
        }
      : null;
    return [
      {
        check: "too-low-to-settle",
        severity: "warn",
        where: sayBands(low.map(({ band }) => band.number)),
        message: `Band ${worst.band.number} is settled for only ${plainNumber(worst.share * 100, 0)} % of ${trial.readInParts ? "what is read of it" : "its height"}: the rest is printed while the nozzle is still on its way.${earlier && lead ? ` Told early, the worst band settles for ${plainNumber(lead.share * 100, 0)} %.` : ""}`,
        mend: earlier && lead && lead.share >= ENOUGH_SHARE ? earlier : taller,
        ...(earlier ? { others: [lead && lead.share >= ENOUGH_SHARE ? taller : earlier] } : {}),
      },
    ];
  },
};
