import { TalkLine, wordOf } from "../../firmware/commands/line";
import { arcFromCentre, arcFromRadius, arcSegments } from "../../gcode/arcs";
import { feedMmMinToMmS, MM_PER_INCH } from "../../units";
import type { Place, SimulatedPrinter, Wait } from "../machine";
import { Handlers } from "./handler";

/** Lines wait while the queue of planned moves is full. */
const untilRoom: Wait = { over: ({ planner }) => !planner.full };
const untilStill: Wait = { over: ({ planner }) => planner.empty };

/** Stands still for so long once everything planned is done. */
function stillFor(seconds: number): Wait {
  let until: number | null = null;
  return {
    over({ planner, nowS }) {
      if (!planner.empty) return false;
      until ??= nowS + seconds;
      return nowS >= until - 1e-9;
    },
  };
}

const HOMING_S = { x: 3, y: 3, z: 5 };

function targetOf(machine: SimulatedPrinter, line: TalkLine): Partial<Place> {
  const scale = machine.inches ? MM_PER_INCH : 1;
  const target: Partial<Place> = {};
  for (const axis of ["x", "y", "z", "e"] as const) {
    const value = wordOf(line, axis.toUpperCase());
    if (value === undefined) continue;
    const relative = axis === "e" ? machine.relativeE : machine.relative;
    target[axis] = relative ? machine.place[axis] + value * scale : value * scale;
  }
  const feed = wordOf(line, "F");
  if (feed !== undefined && feed > 0) machine.feedMmS = feedMmMinToMmS(feed * scale);
  return target;
}

function straight(machine: SimulatedPrinter, line: TalkLine): Wait {
  machine.planMove(targetOf(machine, line), machine.feedMmS);
  return untilRoom;
}

function arc(clockwise: boolean) {
  return (machine: SimulatedPrinter, line: TalkLine): Wait => {
    const from = { ...machine.place };
    const to = { ...from, ...targetOf(machine, line) };
    const scale = machine.inches ? MM_PER_INCH : 1;
    const radius = wordOf(line, "R");
    const found =
      radius === undefined
        ? arcFromCentre(
            from.x,
            from.y,
            to.x,
            to.y,
            (wordOf(line, "I") ?? 0) * scale,
            (wordOf(line, "J") ?? 0) * scale,
            clockwise,
          )
        : arcFromRadius(from.x, from.y, to.x, to.y, radius * scale, clockwise);
    if (!found) {
      machine.say("Error:arc without centre");
      return untilRoom;
    }
    const segments = Math.min(200, arcSegments(found));
    for (let i = 1; i <= segments; i++) {
      const share = i / segments;
      const angle = found.startAngle + found.sweep * share;
      const last = i === segments;
      machine.planMove(
        {
          x: last ? to.x : found.centreX + found.radiusMm * Math.cos(angle),
          y: last ? to.y : found.centreY + found.radiusMm * Math.sin(angle),
          z: from.z + (to.z - from.z) * share,
          e: from.e + (to.e - from.e) * share,
        },
        machine.feedMmS,
      );
    }
    return untilRoom;
  };
}

function drawBack(machine: SimulatedPrinter, back: boolean): Wait | "unknown" {
  const { memory, place } = machine;
  const length = memory.get("retractionLength", memory.get("namedRetractionLength", NaN));
  if (Number.isNaN(length)) return "unknown";
  if (machine.drawnBack === back) return untilRoom;
  machine.drawnBack = back;
  const speed = memory.get(back ? "retractionSpeed" : "restoreSpeed", memory.get("namedRetractionSpeed", 35));
  const e = place.e;
  machine.planMove({ e: e + (back ? -length : length + memory.get("restoreExtra", 0)) }, speed);
  // The names of positions do not change by what the firmware does itself.
  place.e = e;
  return untilRoom;
}

function motorsOff(machine: SimulatedPrinter, line: TalkLine): Wait {
  const named = line.words.map(({ name }) => name).filter((name) => "XYZE".includes(name));
  return {
    ...untilStill,
    then() {
      for (const axis of ["x", "y", "z"] as const) {
        if (named.length === 0 || named.includes(axis.toUpperCase())) machine.homed[axis] = false;
      }
      if (named.length === 0) machine.motorsOn = false;
    },
  };
}

export const motionHandlers: Handlers = {
  G0: straight,
  G1: straight,
  G2: arc(true),
  G3: arc(false),
  G4(_, line) {
    const seconds = wordOf(line, "S") ?? (wordOf(line, "P") ?? 0) / 1000;
    return stillFor(seconds);
  },
  G10: (machine) => drawBack(machine, true),
  G11: (machine) => drawBack(machine, false),
  G20: (machine) => void (machine.inches = true),
  G21: (machine) => void (machine.inches = false),
  G28(_, line) {
    const named = (["x", "y", "z"] as const).filter((axis) =>
      line.words.some(({ name }) => name === axis.toUpperCase()),
    );
    const axes: ("x" | "y" | "z")[] = named.length > 0 ? named : ["x", "y", "z"];
    const seconds = axes.map((axis) => HOMING_S[axis]).reduce((sum, one) => sum + one, 0);
    return {
      ...stillFor(seconds),
      then(machine) {
        const range = machine.axisRange();
        machine.motorsOn = true;
        for (const axis of axes) {
          machine.homed[axis] = true;
          machine.shift[axis] = 0;
          machine.place[axis] = range[axis][0];
        }
      },
    };
  },
  G90: (machine) => void (machine.relative = machine.relativeE = false),
  G91: (machine) => void (machine.relative = machine.relativeE = true),
  G92(machine, line) {
    const axes = (["x", "y", "z", "e"] as const).filter((axis) => wordOf(line, axis.toUpperCase()) !== undefined);
    const zeroes = axes.length > 0 ? axes : (["x", "y", "z", "e"] as const);
    for (const axis of zeroes) {
      const named = wordOf(line, axis.toUpperCase()) ?? 0;
      machine.shift[axis] += machine.place[axis] - named;
      machine.place[axis] = named;
    }
    if (!zeroes.includes("e")) return;
    // A mark on the filament is measured from here, once everything planned is fed.
    machine.markFilament();
  },
  M17: (machine) => void (machine.motorsOn = true),
  M18: motorsOff,
  M84: motorsOff,
  M82: (machine) => void (machine.relativeE = false),
  M83: (machine) => void (machine.relativeE = true),
  M220: (machine, line) => void (machine.feedPercent = wordOf(line, "S") ?? machine.feedPercent),
  M221: (machine, line) => void (machine.flowPercent = wordOf(line, "S") ?? machine.flowPercent),
  M204(machine, line) {
    if (!machine.memory.has("M204")) return "unknown";
    // S stands for printing and travelling alike.
    const both = wordOf(line, "S");
    const words = both === undefined ? line.words : ["P", "T"].map((name) => ({ name, value: both }));
    machine.memory.set("M204", words);
  },
  M400: () => untilStill,
  M410: (machine) => machine.stopMoves(),
};
