import { dialects } from "../machine/dialects";
import { valueId } from "../firmware/values/value";
import { succeed } from "../result";
import { plainNumber } from "../units";
import { nozzleInput } from "./inputs";
import { toolOf, Tune, TuneInput } from "./tune";

const cycles: TuneInput = {
  key: "cycles",
  label: "Swings",
  unit: "",
  low: 3,
  high: 12,
  step: 1,
  decimals: 0,
  usual: () => 5,
};

/** `Kp: 22.20 Ki: 1.08 Kd: 114.00` in whatever line it stands; the last one counts. Common practice, no source. */
export function readTunedFigures(lines: string[]): Record<string, number> | null {
  const figures: Record<string, number> = {};
  for (const line of lines) {
    for (const [, name, value] of line.matchAll(/\bK?([pid])\s*[:=]?\s*(\d+(?:\.\d+)?)/gi))
      figures[name.toLowerCase()] = Number(value);
  }
  return "p" in figures && "i" in figures && "d" in figures ? { p: figures.p, i: figures.i, d: figures.d } : null;
}

interface Heater {
  what: "nozzle" | "bed";
  ids: [string, string, string];
  target: TuneInput;
  highest(printer: { highestNozzleC: number; highestBedC: number }): number;
}

function heaterTune({ what, ids, target, highest }: Heater): Tune {
  return {
    title: `${what === "nozzle" ? "Nozzle" : "Bed"} heat (PID)`,
    draws: "swing",
    question: `Does the ${what} hold its temperature?`,
    needs: [
      what === "nozzle" ? "The part fan on as in a print, if it blows at the nozzle" : "The bed bare",
      "Five to fifteen minutes",
    ],
    inputs: [target, cycles],
    perTool: what === "nozzle",
    uses: (request) => ids.map((id) => valueId(id, toolOf(request))),
    refuses({ dialect }) {
      const { autotunes } = dialects[dialect];
      if (autotunes.includes(what)) return null;
      return autotunes.length === 0
        ? "This printer's dialect has no autotune that Cuchara could read."
        : `This printer's ${what} is only switched on and off: there is nothing to tune.`;
    },
    heat: () => null,
    before: `The ${what} heats up and swings about the temperature some times. Stay near.`,
    act: ({ inputs, printer }) => [
      `M303 E${what === "nozzle" ? toolOf({ inputs }) : -1} S${plainNumber(Math.min(inputs.targetC, highest(printer)))} C${plainNumber(inputs.cycles)}`,
      what === "nozzle" ? "M104 S0" : "M140 S0",
    ],
    after: "The printer says what it found.",
    readings: () =>
      (["p", "i", "d"] as const).map((key) => ({
        key,
        label: key.toUpperCase(),
        unit: "",
        low: 0,
        high: 5000,
        decimals: 2,
      })),
    sum(request, { p, i, d }) {
      const found = [p, i, d];
      const own = ids.map((id) => valueId(id, toolOf(request)));
      const old = own.map((id) => request.values[id]);
      const known = old.every((value) => value !== undefined);
      const within = known && found.every((value, n) => Math.abs(value - old[n]) <= 0.1 * Math.max(old[n], 0.01));
      return succeed({
        sum: ["P", "I", "D"].map(
          (name, n) => `${name} = ${plainNumber(found[n], 2)}${known ? ` (was ${plainNumber(old[n], 2)})` : ""}`,
        ),
        measured: p,
        unit: "",
        within,
        verdict: within ? "Almost what it has: leave it." : "These hold the temperature better than what it has.",
        ...(p === 0 || d === 0 ? { ask: "A value of 0 turns that PID term off. Did you copy it correctly?" } : {}),
        firmware: Object.fromEntries(own.map((id, n) => [id, Math.round(found[n] * 100) / 100])),
      });
    },
    // Nothing is read by hand, so one run is enough.
    agreeWithin: Infinity,
    fromAnswers: readTunedFigures,
    asFile: true,
  };
}

export const nozzlePid = heaterTune({
  what: "nozzle",
  ids: ["nozzleP", "nozzleI", "nozzleD"],
  target: { ...nozzleInput, key: "targetC", label: "About" },
  highest: ({ highestNozzleC }) => highestNozzleC,
});

export const bedPid = heaterTune({
  what: "bed",
  ids: ["bedP", "bedI", "bedD"],
  target: {
    key: "targetC",
    label: "About",
    unit: "°C",
    low: 40,
    high: 130,
    step: 5,
    decimals: 0,
    usual: ({ spool }) => spool?.bedC ?? 60,
  },
  highest: ({ highestBedC }) => highestBedC,
});
