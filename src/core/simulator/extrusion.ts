/** Moves as they really come out: the planner, what the extruder really feeds, how long an axis really is. */
import { USUAL_FILAMENT_MM2 } from "../material/bead";
import { roundTo } from "../units";
import { Memory } from "./memory";
import { Personality } from "./personality";
import { Block, Motion, Planner, Step } from "./planner";

/** What really happened, for the ruler. */
export interface Truth {
  /** Filament really fed since G92 E0, by tool, mm. */
  fedMm: number[];
  /** Filament really fed by each move of the extruder alone since G92 E0, mm. */
  feeds: number[];
  /** Real length of the last move of each axis, mm. */
  lastMoveMm: { x: number; y: number; z: number };
  /** From where an axis counts itself to where it stands, as its last homing left it, mm. */
  standsOffMm: { x: number; y: number };
}

export class Extrusion {
  readonly planner: Planner;
  readonly truth: Truth;
  /** Seconds spent moving since power-on. */
  movingS = 0;
  private markNextMove = false;
  private flowMm = 0;

  constructor(
    private readonly memory: Memory,
    private readonly personality: Personality,
    tools: number,
    lookAheadMoves: number,
  ) {
    this.planner = new Planner(lookAheadMoves);
    this.truth = {
      fedMm: Array.from({ length: tools }, () => 0),
      feeds: [],
      lastMoveMm: { x: 0, y: 0, z: 0 },
      standsOffMm: { ...personality.truths.bedCentreOffsetMm },
    };
  }

  add(step: Omit<Step, "marks">, feedMmS: number, motion: Motion): void {
    const planned = this.planner.blocks.length;
    this.planner.add({ ...step, marks: this.markNextMove }, feedMmS, motion);
    if (this.planner.blocks.length > planned) this.markNextMove = false;
  }

  /** From here on the ruler counts the filament, once everything planned is fed. */
  markFilament(tool: number): void {
    this.markNextMove = true;
    if (this.planner.empty) this.zeroFilament(tool);
  }

  /** Lets time pass within the first planned move. */
  advance(seconds: number, tool: number, nozzleC: number): void {
    if (!this.planner.empty) this.movingS += seconds;
    const done = this.planner.advance(seconds);
    if (done) this.finish(done, tool, nozzleC);
  }

  /** Share of the filament asked for that is really fed, with the steps in force. */
  feedShare(tool: number): number {
    const id = tool === 0 ? "extruderSteps" : `extruderSteps@${tool}`;
    const steps = this.memory.get(id, 1) / (this.memory.factory[id] ?? 1);
    return (this.personality.truths.extruderFeed[tool] ?? 1) * steps;
  }

  /** Filament that went through the hot end since this was last asked, mm³. */
  takeFlowMm3(): number {
    const flowMm3 = this.flowMm * USUAL_FILAMENT_MM2;
    this.flowMm = 0;
    return flowMm3;
  }

  private finish(done: Block, tool: number, nozzleC: number): void {
    if (done.marks) this.zeroFilament(tool);
    for (const axis of ["x", "y", "z"] as const) {
      const commanded = done[`d${axis}`];
      if (Math.abs(commanded) < 1e-9) continue;
      const id = `steps${axis.toUpperCase()}`;
      const steps = this.memory.get(id, 1) / (this.memory.factory[id] ?? 1);
      this.truth.lastMoveMm[axis] = Math.abs(commanded) * this.personality.truths.axisLength[axis] * steps;
    }
    if (Math.abs(done.de) < 1e-9) return;
    const fed = done.de * this.feedShare(tool) * this.slip(done.de / done.seconds, nozzleC);
    this.truth.fedMm[tool] = roundTo((this.truth.fedMm[tool] ?? 0) + fed, 9);
    if (Math.hypot(done.dx, done.dy, done.dz) < 1e-9) this.truth.feeds.push(fed);
    this.flowMm += Math.max(0, done.de);
  }

  private zeroFilament(tool: number): void {
    this.truth.fedMm[tool] = 0;
    this.truth.feeds.length = 0;
  }

  private slip(feedMmS: number, nozzleC: number): number {
    const { slipFlowMm3S, slipFlowPerC } = this.personality.truths;
    const most = Math.max(1, slipFlowMm3S + slipFlowPerC * (nozzleC - 210));
    const flow = feedMmS * USUAL_FILAMENT_MM2;
    // Past the limit the gear skips: what does not melt is not fed.
    return flow <= most ? 1 : (most / flow) ** 1.5;
  }
}
