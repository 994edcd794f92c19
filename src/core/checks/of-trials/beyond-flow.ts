import { bandOfLayer } from "../../heightplan/plan";
import { filamentAreaMm2 } from "../../material/bead";
import { plainNumber } from "../../units";
import { Check } from "../check";
import { sayBands } from "../say";

/** Bands that ask for more plastic than the hot end melts. Where the bands vary the print speed, that is what some are there for: a note. */
export const beyondFlow: Check = {
  key: "beyond-flow",
  passes: "The hot end keeps up with the flow.",
  run({ bands, report, printer, spool }) {
    if (!spool) return [];
    const area = filamentAreaMm2(spool.diameterMm);
    const over = new Set<number>();
    let worst = 0;
    for (const { index, peakFilamentMmS } of report.layers) {
      const flowMm3S = peakFilamentMmS * area;
      if (flowMm3S <= printer.highestFlowMm3S * 1.005) continue;
      worst = Math.max(worst, flowMm3S);
      const band = bandOfLayer(bands, index);
      if (band) over.add(band.number);
    }
    if (worst === 0) return [];
    const wanted = bands.some(({ settings }) => settings.printSpeed !== undefined);
    return [
      {
        check: "beyond-flow",
        severity: wanted ? "note" : "warn",
        where: over.size > 0 ? sayBands([...over]) : "first layers",
        message: `Up to ${plainNumber(worst, 1)} mm³/s is asked for; the hot end of ${printer.name} melts about ${plainNumber(printer.highestFlowMm3S, 1)} mm³/s.${wanted ? " Expect thin walls from there on." : ""}`,
      },
    ];
  },
};
