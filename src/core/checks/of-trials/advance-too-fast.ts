import { filamentAreaMm2, beadAreaMm2 } from "../../material/bead";
import { beadWidthFor } from "../../printing/process";
import { plainNumber } from "../../units";
import { Check } from "../check";
import { sayBands } from "../say";

/**
 * Values of pressure advance that the extruder cannot follow. While the head speeds up by a, the extruder runs K·a·ε faster than the line
 * needs, with ε mm of filament a mm of path: the lead K·v grows as fast as v does (what pressure advance means; from memory).
 */
export const advanceTooFast: Check = {
  key: "advance-too-fast",
  passes: null,
  run({ trial, printer, spool, byLayer, bands }) {
    const { sideBySide } = trial.plan;
    const side = sideBySide?.setting === "pressureAdvance" ? sideBySide.values : null;
    const values = side ?? bands.map(({ settings }) => settings.pressureAdvance ?? 0);
    const fed = beadAreaMm2(beadWidthFor(printer), trial.firstLayerHeightMm) / filamentAreaMm2(spool.diameterMm);
    const heard = byLayer.acceleration[0];
    const acceleration = trial.fixed.acceleration ?? (Number.isNaN(heard) ? printer.printAccelerationMmS2 : heard);
    const most = printer.highestFeedEMmS / (fed * acceleration);
    const beyond = values.flatMap((value, i) => (value > most ? [i + 1] : []));
    if (beyond.length === 0) return [];
    return [
      {
        check: "advance-too-fast",
        severity: "note",
        where: side ? `lines ${beyond[0]} to ${beyond[beyond.length - 1]}` : sayBands(beyond),
        message: `From ${plainNumber(most, 3)} s up, the extruder of ${printer.name} would exceed its limit of ${plainNumber(printer.highestFeedEMmS)} mm/s during acceleration. The firmware slows the head instead, so those values can't be compared.`,
      },
    ];
  },
};
