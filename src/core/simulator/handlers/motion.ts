import { arcFromCentre, arcFromRadius, arcSegments } from "../../gcode/arcs";
import type { TalkLine } from "../../gcode/talk-line";
import { feedMmMinToMmS } from "../../units";
import { sendAllTold } from "./heat";
import type { Handler, Handlers, Parts, StatePlace, Wait } from "../parts";
import { stillFor, untilStill } from "../waits";

/** Lines wait while the queue of planned moves is full. */
const untilRoom: Wait = { over: ({ extrusion }) => !extrusion.planner.full };

/** So long feeling out one place takes, and homing an axis. Invented. */
const PROBING_S = 4;
const HOMING_S = { X: 3, Y: 3, Z: 5 };

const straight: Handler = (parts, _, before) => {
  parts.planFrom(before, feedMmMinToMmS(parts.state.feedMmMin));
  return untilRoom;
};

function arc(clockwise: boolean): Handler {
  return (parts, line, before) => {
    const { state, say } = parts;
    const to: StatePlace = { x: state.x, y: state.y, z: state.z, e: state.e };
    const found = arcOf(line, state.unitMm, before, to, clockwise);
    if (!found) {
      Object.assign(state, { x: before.x, y: before.y, z: before.z, e: before.e });
      say("Error:arc without centre");
      return untilRoom;
    }
    const segments = Math.min(200, arcSegments(found));
    let from: StatePlace = before;
    for (let i = 1; i <= segments; i++) {
      const share = i / segments;
      const angle = found.startAngle + found.sweep * share;
      const last = i === segments;
      Object.assign(state, {
        x: last ? to.x : found.centreX + found.radiusMm * Math.cos(angle),
        y: last ? to.y : found.centreY + found.radiusMm * Math.sin(angle),
        z: before.z + (to.z - before.z) * share,
        e: before.e + (to.e - before.e) * share,
      });
      parts.planFrom(from, feedMmMinToMmS(state.feedMmMin));
      from = { x: state.x, y: state.y, z: state.z, e: state.e };
    }
    return untilRoom;
  };
}

/** An arc of the XY plane, the one these printers know. */
function arcOf(line: TalkLine, unitMm: number, from: StatePlace, to: StatePlace, clockwise: boolean) {
  const figure = (name: string) => (line.has(name) ? line.value(name) : 0) * unitMm;
  return line.has("R")
    ? arcFromRadius(from.x, from.y, to.x, to.y, figure("R"), clockwise)
    : arcFromCentre(from.x, from.y, to.x, to.y, figure("I"), figure("J"), clockwise);
}

/** The firmware's own retraction: names of positions do not change by it. */
function drawBack(parts: Parts, back: boolean, wasDrawnBack: boolean): Wait | "unknown" {
  const { memory, state } = parts;
  const length = memory.get("retractionLength", memory.get("namedRetractionLength", NaN));
  if (Number.isNaN(length)) return "unknown";
  if (wasDrawnBack === back) return untilRoom;
  const speed = memory.get(back ? "retractionSpeed" : "restoreSpeed", memory.get("namedRetractionSpeed", 35));
  const from = { x: state.x, y: state.y, z: state.z, e: state.e };
  state.e += back ? -length : length + memory.get("restoreExtra", 0);
  parts.planFrom(from, speed);
  state.e = from.e;
  return untilRoom;
}

export const motionHandlers: Handlers = {
  G0: straight,
  G1: straight,
  G2: arc(true),
  G3: arc(false),
  G4(_, line) {
    const seconds = line.has("S") ? line.value("S") : (line.has("P") ? line.value("P") : 0) / 1000;
    return stillFor(seconds);
  },
  G10: (parts, line, before) => (line.has("P") ? sendAllTold(parts) : drawBack(parts, true, before.drawnBack)),
  G11: (parts, _, before) => drawBack(parts, false, before.drawnBack),
  // Feels one place out, and again and again until the axis is level.
  G30: () => stillFor(PROBING_S),
  G34: () => stillFor(5 * PROBING_S),
  G28(_, line) {
    const all: (keyof typeof HOMING_S)[] = ["X", "Y", "Z"];
    const named = all.filter((axis) => line.has(axis));
    let seconds = 0;
    for (const axis of named.length > 0 ? named : all) seconds += HOMING_S[axis];
    return stillFor(seconds);
  },
  // A mark on the filament is measured from where it is named, once everything planned is fed.
  G92({ extrusion, state }, line) {
    if (line.count === 0 || line.has("E")) extrusion.markFilament(state.tool);
  },
  M18: () => untilStill,
  M84: () => untilStill,
  M400: () => untilStill,
  M410: ({ extrusion }) => extrusion.planner.clear(),
};
