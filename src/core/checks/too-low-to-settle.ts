import { settledShareOf } from "../report/report";
import { plainNumber } from "../units";
import { Check } from "./finding";
import { sayBands } from "./say";

/** Share of its height in which a band must be settled to tell something. */
const ENOUGH_SHARE = 0.6;

/** Bands so low that the nozzle has not reached their temperature for most of them. */
export const tooLowToSettle: Check = {
  key: "too-low-to-settle",
  passes: "The nozzle settles within every band.",
  run({ bands, heat, report, trial }) {
    if (!trial || !bands.some(({ settings }) => settings.nozzleTemperature !== undefined)) return [];
    const heights = report.layers.map(({ heightMm }) => heightMm);
    const low = bands
      .filter(({ firstLayer, lastLayer }) => lastLayer >= firstLayer)
      .map((band) => ({ band, share: settledShareOf(heat, heights, band.firstLayer, band.lastLayer) }))
      .filter(({ share }) => share < ENOUGH_SHARE);
    if (low.length === 0) return [];
    const worst = low.reduce((a, b) => (b.share < a.share ? b : a));
    const height = worst.band.toMm - worst.band.fromMm;
    // What passes before it settles stays; the rest of the band must be long enough beside it.
    const wanted = Math.ceil(((1 - worst.share) * height) / (1 - ENOUGH_SHARE) + 0.5);
    return [
      {
        check: "too-low-to-settle",
        severity: "warn",
        where: sayBands(low.map(({ band }) => band.number)),
        message: `Band ${worst.band.number} is settled for only ${plainNumber(worst.share * 100, 0)} % of its height: the rest is printed while the nozzle is still on its way.`,
        mend: {
          label: `Make every band ${wanted} mm high`,
          trial: {
            plan: {
              ...trial.plan,
              bands: trial.plan.bands.map((band) => ({ ...band, heightMm: Math.max(band.heightMm, wanted) })),
            },
          },
        },
      },
    ];
  },
};
