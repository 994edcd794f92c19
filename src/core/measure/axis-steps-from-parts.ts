import { succeed } from "../result";
import { plainNumber } from "../units";
import { Tune, TuneInput } from "./tune";

const figure = (key: string, label: string, unit: string, usual: number, high: number, decimals = 0): TuneInput => ({
  key,
  label,
  unit,
  low: decimals > 0 ? 0.1 : 1,
  high,
  step: 1,
  decimals,
  usual: () => usual,
});

const AXES = ["X", "Y", "Z"] as const;

export const axisStepsFromParts: Tune = {
  title: "Axis steps, from parts",
  draws: "parts",
  question: "What steps follow from motor, belt and screw?",
  needs: ["The numbers of the motor, the driver and the belt or screw"],
  inputs: [
    {
      ...figure("axis", "Axis", "", 0, 2),
      low: 0,
      choices: AXES.map((label, value) => ({ value, label })),
    },
    {
      ...figure("drive", "Drive", "", 0, 1),
      low: 0,
      choices: [
        { value: 0, label: "Belt" },
        { value: 1, label: "Screw" },
      ],
    },
    figure("stepsPerTurn", "Motor", "steps/turn", 200, 1000),
    figure("microsteps", "Microsteps", "", 16, 256),
    figure("pitchMm", "Belt pitch", "mm", 2, 20, 2),
    figure("teeth", "Teeth on the pulley", "", 20, 200),
    figure("leadMm", "Screw lead", "mm", 8, 100, 2),
  ],
  uses: ({ inputs }) => [`steps${AXES[inputs.axis] ?? "X"}`],
  heat: () => null,
  before: "Look the numbers up on the parts.",
  act: () => [],
  after: "",
  readings: () => [],
  /** Belt: steps · microsteps / (pitch · teeth); screw: steps · microsteps / lead. Common practice, no source. */
  sum({ inputs, values }) {
    const { stepsPerTurn, microsteps, pitchMm, teeth, leadMm } = inputs;
    const id = `steps${AXES[inputs.axis] ?? "X"}`;
    const belt = inputs.drive === 0;
    const perTurn = belt ? pitchMm * teeth : leadMm;
    const next = (stepsPerTurn * microsteps) / perTurn;
    const whole = `${plainNumber(stepsPerTurn)} · ${plainNumber(microsteps)}`;
    const way = belt ? `(${plainNumber(pitchMm)} · ${plainNumber(teeth)})` : plainNumber(leadMm);
    const old = values[id];
    const within = old !== undefined && Math.abs(old - next) < 0.005;
    return succeed({
      sum: [`steps = ${whole} / ${way} = ${plainNumber(next, 3)} steps/mm`],
      measured: next,
      unit: "steps/mm",
      within,
      verdict: within
        ? "The printer has just this."
        : old === undefined
          ? "What the printer has now is not known yet."
          : `The printer has ${plainNumber(old, 2)}. Parts come first; measuring can only mend what is left.`,
      firmware: { [id]: Math.round(next * 100) / 100 },
    });
  },
  agreeWithin: Infinity,
  asFile: false,
};
