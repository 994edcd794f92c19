import { beadAreaMm2, filamentAreaMm2, USUAL_FILAMENT_MM } from "../material/bead";
import { beadWidthFor } from "../printing/process";
import { refuse, succeed } from "../result";
import { plainNumber } from "../units";
import { nozzleInput } from "./inputs";
import { Tune, TuneRequest } from "./tune";

/** Where so much less comes through than at the slowest feed, the hot end no longer keeps up. Common practice, no source. */
const LOST_SHARE = 0.05;

const area = ({ spool }: Pick<TuneRequest, "spool">) => filamentAreaMm2(spool?.diameterMm ?? USUAL_FILAMENT_MM);

/** Flows that are tried, mm³/s. */
export function flowSteps({ inputs }: Pick<TuneRequest, "inputs">): number[] {
  return Array.from({ length: Math.round(inputs.count) }, (_, i) => inputs.firstMm3S + i * inputs.stepMm3S);
}

export const highestFlow: Tune = {
  title: "Highest flow",
  draws: "feeds",
  question: "How much melts per second before the extruder slips?",
  needs: ["Filament loaded, nozzle clean", "A ruler and a pen", "Room below the nozzle"],
  inputs: [
    nozzleInput,
    {
      key: "firstMm3S",
      label: "From",
      unit: "mm³/s",
      low: 1,
      high: 60,
      step: 1,
      decimals: 1,
      usual: ({ printer }) => Math.max(2, Math.round(printer.highestFlowMm3S * 0.5)),
    },
    { key: "stepMm3S", label: "Steps of", unit: "mm³/s", low: 0.5, high: 10, step: 0.5, decimals: 1, usual: () => 2 },
    { key: "count", label: "How many", unit: "", low: 3, high: 10, step: 1, decimals: 0, usual: () => 6 },
    { key: "feedMm", label: "Each feeds", unit: "mm", low: 20, high: 100, step: 10, decimals: 0, usual: () => 50 },
  ],
  perTool: true,
  uses: () => [],
  heat: ({ inputs }) => ({ nozzleC: inputs.nozzleC }),
  before:
    "Mark the filament every ten millimetres, so that each feed can be measured. It feeds faster each time and waits in between.",
  act(request) {
    const feeds = flowSteps(request).map(
      (flow) => `G1 E${plainNumber(request.inputs.feedMm)} F${plainNumber((flow / area(request)) * 60, 0)}`,
    );
    return ["G28", "G90", "G1 Z50 F600", "M83", "G92 E0", ...feeds.flatMap((feed) => [feed, "G4 S5"])];
  },
  after: "Type how much filament each feed really took.",
  readings: (request) =>
    flowSteps(request).map((flow, i) => ({
      key: `fed${i}`,
      label: `At ${plainNumber(flow, 1)} mm³/s`,
      unit: "mm",
      low: 0,
      high: 2 * request.inputs.feedMm,
      decimals: 1,
    })),
  /** The last flow before more than 5 % of the slowest feed's length is lost; as a feed: flow / filament's cross-section. */
  sum(request, readings) {
    const flows = flowSteps(request);
    const fed = flows.map((_, i) => readings[`fed${i}`]);
    if (!(fed[0] > 0)) return refuse("The first feed took nothing: there is nothing to compare with.", "fed0");
    const lost = flows.findIndex((_, i) => fed[i] < fed[0] * (1 - LOST_SHARE));
    if (lost === 0 || flows.length === 0) return refuse("Feeds are needed to compare.", "fed0");
    const highest = flows[lost < 0 ? flows.length - 1 : lost - 1];
    const widthMm = beadWidthFor(request.printer);
    const heightMm = request.printer.nozzleMm / 2;
    const beadMm2 = beadAreaMm2(widthMm, heightMm);
    return succeed({
      sum: [
        lost < 0
          ? `No feed lost more than ${LOST_SHARE * 100} % of ${plainNumber(fed[0], 1)} mm`
          : `At ${plainNumber(flows[lost], 1)} mm³/s only ${plainNumber(fed[lost], 1)} of ${plainNumber(fed[0], 1)} mm came through`,
        `${plainNumber(highest, 1)} mm³/s / ${plainNumber(area(request), 3)} mm² = ${plainNumber(highest / area(request), 2)} mm/s of filament`,
        `a bead of ${plainNumber(widthMm, 2)} × ${plainNumber(heightMm, 2)} mm: about ${plainNumber(highest / beadMm2, 0)} mm/s`,
      ],
      measured: highest,
      unit: "mm³/s",
      // Keeping up with everything that was tried tells no limit, only that there is more to try.
      within: false,
      verdict:
        lost < 0
          ? "It keeps up with all of them: try faster ones."
          : `It keeps up to ${plainNumber(highest, 1)} mm³/s at ${plainNumber(request.inputs.nozzleC)} °C.`,
      ...(fed.some((length) => length > 1.15 * request.inputs.feedMm)
        ? { ask: "One feed took more than it should. Did you type every one correctly?" }
        : {}),
      firmware: {},
      ...(lost < 0 && highest <= request.printer.highestFlowMm3S
        ? {}
        : { printer: { highestFlowMm3S: Math.round(highest * 10) / 10 } }),
    });
  },
  agreeWithin: 2.5,
  fromRuler: ({ feedsMm }, request) => {
    const count = flowSteps(request).length;
    return Object.fromEntries(feedsMm.slice(-count).map((fed, i) => [`fed${i}`, fed]));
  },
  asFile: true,
};
