import type { Finding } from "../../findings/finding";
import { beadWidthFor } from "../../printing/process";
import { plainNumber } from "../../units";
import type { Check } from "../check";

/** Layers higher than this share of the nozzle are pressed too little to bond well. Common practice, no source. */
const MOST_OF_NOZZLE = 0.75;

/** Layers that the nozzle cannot lay: a bead that is no wider than high touches neither what is below nor its neighbours. */
export const layerTooHigh: Check = {
  key: "layer-too-high",
  passes: null,
  run({ trial: { layerHeightMm, firstLayerHeightMm }, printer }) {
    const nozzleMm = plainNumber(printer.nozzleMm, 2);
    const mostMm = plainNumber(Math.floor(MOST_OF_NOZZLE * printer.nozzleMm * 100 + 1e-6) / 100, 2);
    const look = (what: string, heightMm: number): Finding[] => {
      if (heightMm <= MOST_OF_NOZZLE * printer.nozzleMm + 1e-6) return [];
      const isRound = heightMm >= beadWidthFor(printer) - 1e-6;
      const said = `${what} of ${plainNumber(heightMm, 2)} mm`;
      return [
        {
          check: "layer-too-high",
          severity: isRound ? "stop" : "warn",
          where: what,
          message: isRound
            ? `${said} cannot be laid with a ${nozzleMm} mm nozzle: its bead is no wider than that, and would bond to nothing. Take ${mostMm} mm at most.`
            : `${said} is more than three quarters of the ${nozzleMm} mm nozzle: it bonds badly. Take ${mostMm} mm at most.`,
        },
      ];
    };
    return [...look("A layer", layerHeightMm), ...look("A first layer", firstLayerHeightMm)];
  },
};
