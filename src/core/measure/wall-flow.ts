import { succeed } from "../result";
import { plainNumber } from "../units";
import { Tune } from "./tune";

const SIDES = ["frontMm", "rightMm", "backMm", "leftMm"] as const;
const labels = { frontMm: "Front wall", rightMm: "Right wall", backMm: "Back wall", leftMm: "Left wall" };
/** Walls that differ more than this from one another were measured on a blob or a seam. Common practice, no source. */
const SPREAD_MM = 0.06;
/** A calliper tells no more. Common practice, no source. */
const GOOD_SHARE = 0.01;

export const wallFlow: Tune = {
  title: "Flow, from wall thickness",
  draws: "wall",
  question: "Is a wall as thick as it should be?",
  needs: ["A one-wall box, printed with the flow below (trial “Flow” makes one)", "A calliper"],
  inputs: [
    {
      key: "wallMm",
      label: "Wall wanted",
      unit: "mm",
      low: 0.1,
      high: 3,
      step: 0.01,
      decimals: 2,
      usual: ({ printer }) => Math.round(printer.nozzleMm * 112.5) / 100,
    },
    {
      key: "flowPercent",
      label: "Printed with flow",
      unit: "%",
      low: 20,
      high: 200,
      step: 1,
      decimals: 1,
      usual: ({ kept }) => kept.flowFactor ?? 100,
    },
  ],
  uses: () => [],
  heat: () => null,
  before: "Let the box cool, and take off strings and the elephant's foot at the bottom.",
  act: () => [],
  after: "Measure each wall in the middle, away from corners and the seam.",
  readings: () => SIDES.map((key) => ({ key, label: labels[key], unit: "mm", low: 0.05, high: 5, decimals: 2 })),
  /** new = old · wanted / mean of the four sides. Common practice, no source. */
  sum({ inputs }, readings) {
    const walls = SIDES.map((side) => readings[side]);
    const mean = walls.reduce((sum, wall) => sum + wall, 0) / walls.length;
    const next = (inputs.flowPercent * inputs.wallMm) / mean;
    const within = Math.abs(mean - inputs.wallMm) <= GOOD_SHARE * inputs.wallMm;
    const spread = Math.max(...walls) - Math.min(...walls);
    const share = Math.abs(next / inputs.flowPercent - 1);
    return succeed({
      sum: [
        `mean = (${walls.map((wall) => plainNumber(wall, 2)).join(" + ")}) / 4 = ${plainNumber(mean, 3)} mm`,
        `new = ${plainNumber(inputs.flowPercent, 1)} · ${plainNumber(inputs.wallMm, 2)} / ${plainNumber(mean, 3)} = ${plainNumber(next, 1)} %`,
      ],
      measured: mean,
      unit: "mm",
      within,
      verdict: within
        ? "As thick as wanted: leave it."
        : mean > inputs.wallMm
          ? "The walls are too thick."
          : "The walls are too thin.",
      ...(spread > SPREAD_MM
        ? { ask: `The walls differ by ${plainNumber(spread, 2)} mm. Was one measured at a corner or a blob?` }
        : share > 0.25
          ? { ask: `Flow would change by ${Math.round(share * 100)} %. Did you type every wall correctly?` }
          : {}),
      firmware: {},
      settings: { flowFactor: Math.round(next * 10) / 10 },
    });
  },
  agreeWithin: 0.02,
  fromRuler: ({ wallsMm }) => Object.fromEntries(SIDES.map((side, i) => [side, wallsMm[i]])),
  asFile: false,
};
