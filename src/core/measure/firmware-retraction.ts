import { dialects } from "../machine/dialects";
import { succeed } from "../result";
import { plainNumber } from "../units";
import { nozzleInput } from "./inputs";
import { Tune, TuneRequest } from "./tune";

const idsOf = ({ printer }: Pick<TuneRequest, "printer">) =>
  dialects[printer.dialect].namedValues
    ? ["namedRetractionLength", "namedRetractionSpeed"]
    : ["retractionLength", "retractionSpeed"];

export const firmwareRetraction: Tune = {
  title: "Firmware retraction",
  draws: "pull",
  question: "Does the firmware draw back what the trial found?",
  needs: ["The best length and speed of a retraction trial"],
  inputs: [
    nozzleInput,
    {
      key: "lengthMm",
      label: "Length",
      unit: "mm",
      low: 0,
      high: 20,
      step: 0.2,
      decimals: 2,
      usual: ({ kept, printer }) => kept.retractionLength ?? printer.retractionMm,
    },
    {
      key: "speedMmS",
      label: "Speed",
      unit: "mm/s",
      low: 1,
      high: 200,
      step: 5,
      decimals: 1,
      usual: ({ kept, printer }) => kept.retractionSpeed ?? printer.retractionMmS,
    },
  ],
  perTool: true,
  uses: idsOf,
  refuses: ({ dialect }) =>
    dialects[dialect].firmwareRetractionLine({}).ok
      ? null
      : "This printer's firmware has no retraction of its own: its programs draw back by themselves.",
  heat: ({ inputs }) => ({ nozzleC: inputs.nozzleC }),
  before: "It feeds a little, draws back, waits ten seconds, and gives back: look whether the nozzle oozes.",
  // What is asked about is set first: the printer's own figures are not what is to be looked at.
  act({ printer, inputs }) {
    const set = dialects[printer.dialect].firmwareRetractionLine(inputs as { lengthMm: number; speedMmS: number });
    return [...(set.ok ? [set.value] : []), "M83", "G1 E15 F120", "G10", "G4 S10", "G11", "G1 E2 F120", "G4 P1"];
  },
  after: "Did it ooze while it waited? Then draw back a little more, and look again.",
  readings: () => [],
  sum(request) {
    const { inputs, values } = request;
    const [lengthId, speedId] = idsOf(request);
    const within = values[lengthId] === inputs.lengthMm && Math.abs((values[speedId] ?? 0) - inputs.speedMmS) < 0.02;
    return succeed({
      sum: [
        `length ${plainNumber(inputs.lengthMm, 2)} mm${values[lengthId] === undefined ? "" : ` (was ${plainNumber(values[lengthId], 2)})`}`,
        `speed ${plainNumber(inputs.speedMmS, 1)} mm/s = ${plainNumber(inputs.speedMmS * 60, 0)} mm/min${values[speedId] === undefined ? "" : ` (was ${plainNumber(values[speedId], 1)} mm/s)`}`,
      ],
      measured: inputs.lengthMm,
      unit: "mm",
      within,
      verdict: within ? "The firmware has just these." : "The firmware's retraction differs from these values.",
      firmware: { [lengthId]: inputs.lengthMm, [speedId]: inputs.speedMmS },
    });
  },
  agreeWithin: Infinity,
  asFile: true,
};
