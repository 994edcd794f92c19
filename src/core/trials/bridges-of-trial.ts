/** What a bridging trial lays over air, as an edit of somebody else's file takes it. */
import { numberOption, optionsOf } from "../options/option";
import type { Printer } from "../shelf/printer";
import { clamp, roundTo } from "../units";
import { trialKindFor } from ".";
import type { Trial } from "./trial";

/** As the edit `bridges` takes it. */
export interface AsBridges {
  layersBefore: number;
  layers: { feedPercent: number; flowPercent: number; fan: number }[];
}

const LAYERS = [1, 2, 3] as const;

/**
 * The layers over air of a bridging trial: speeds as shares of what the file lays them at.
 *
 * @param fileMmS how fast the file lays its bridges
 */
export function bridgesOfTrial({ options }: Pick<Trial, "options">, printer: Printer, fileMmS: number): AsBridges {
  const own = optionsOf(trialKindFor("bridging").options, options, printer);
  return {
    layersBefore: numberOption(own, "coolLayers"),
    layers: LAYERS.map((n) => ({
      feedPercent: clamp(roundTo((100 * numberOption(own, `speed${n}`)) / Math.max(0.1, fileMmS), 0), 10, 500),
      flowPercent: clamp(numberOption(own, `flow${n}`), 10, 300),
      fan: numberOption(own, `fan${n}`),
    })),
  };
}
