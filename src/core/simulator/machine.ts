/**
 * The simulated printer: lines in, answers out, and a clock that is moved from outside. It behaves like a machine as far as
 * the line protocol shows it: moves take their time, heaters theirs, `ok` comes when a line is taken.
 */
import { numberedProblem } from "./numbering";
import { readTalkLine, TalkLine } from "../firmware/commands/line";
import { materials } from "../material/materials";
import { bedCentre, bedDepthMm, Printer } from "../shelf/printer";
import { clamp } from "../units";
import { handlers } from "./handlers";
import type { Handler } from "./handlers/handler";
import { Heater, Pid } from "./heater";
import { factoryValues, Memory, Values } from "./memory";
import { Noise } from "./noise";
import { Personality } from "./personality";
import { Planner } from "./planner";
import { RelayTune } from "./relay";

/** A busy printer says so this often. Common practice, no source. */
export const BUSY_EVERY_S = 2;
const HEAT_STEP_S = 0.25;
/** Below this the extruder does not move. Common practice, no source. */
const COLDEST_FEED_C = 170;
const FILAMENT_MM2 = (Math.PI * 1.75 * 1.75) / 4;
/** A line longer than this is cut: no printer holds more. */
const LONGEST_LINE = 512;

/** Why the next line has to wait. */
export interface Wait {
  /** Whether the wait is over. */
  over(machine: SimulatedPrinter): boolean;
  /** Done when it is over, before `ok`. */
  then?(machine: SimulatedPrinter): void;
  /** Temperatures are reported every second meanwhile. */
  reportsHeat?: boolean;
}

const noWait: Wait = { over: () => true };

export interface Place {
  x: number;
  y: number;
  z: number;
  e: number;
}

export class SimulatedPrinter {
  nowS = 0;
  readonly memory: Memory;
  readonly planner = new Planner();
  readonly nozzles: Heater[];
  readonly bed: Heater;
  readonly noise: Noise;
  /** Where it thinks the planned moves will end. */
  readonly place: Place = { x: 0, y: 0, z: 0, e: 0 };
  /** Added to `place` to get where the axes are, mm (G92 shifts names, not axes). */
  readonly shift: Place = { x: 0, y: 0, z: 0, e: 0 };
  readonly homed = { x: false, y: false, z: false };
  relative = false;
  relativeE = false;
  inches = false;
  feedMmS = 50;
  feedPercent = 100;
  flowPercent = 100;
  tool = 0;
  motorsOn = false;
  readonly fanDuty: number[];
  display = "";
  drawnBack = false;
  halted = false;
  reportEveryS = 0;
  tune: { relay: RelayTune; heater: Heater; tool: number } | null = null;
  lastNumber = 0;
  /** Lines taken since power-on, for looking whether any was taken twice. */
  linesTaken = 0;
  /** What really happened, for the ruler. */
  readonly truth = {
    /** Filament really fed since G92 E0, by tool, mm. */
    fedMm: [] as number[],
    /** Filament really fed by each move of the extruder alone since G92 E0, mm. */
    feeds: [] as number[],
    /** Real length of the last move of each axis, mm. */
    lastMoveMm: { x: 0, y: 0, z: 0 },
  };

  private readonly lines: string[] = [];
  private partial = "";
  private wait: Wait | null = null;
  private busyAtS = Infinity;
  private waitReportS = Infinity;
  private nextReportS = Infinity;
  private nextHeatS = HEAT_STEP_S;
  private flowMm = 0;
  private skipsLongLine = false;
  private restarts = false;
  private markNextMove = false;

  constructor(
    readonly printer: Printer,
    readonly personality: Personality,
    private readonly output: (text: string) => void,
    options: { saved?: Values; seed?: number } = {},
  ) {
    this.noise = new Noise(options.seed ?? 7);
    this.memory = new Memory(
      factoryValues(printer, personality),
      options.saved,
      printer.dialect === "minute",
      printer.tools,
    );
    this.nozzles = Array.from(
      { length: printer.tools },
      () =>
        new Heater(
          {
            riseCPerS: printer.heaterRiseCPerS,
            fallCPerS: printer.heaterFallCPerS,
            atC: 200,
            heaterLagS: 3,
            sensorLagS: 1.5,
            noiseC: 0.12,
          },
          this.noise,
        ),
    );
    this.bed = new Heater(
      { riseCPerS: 0.6, fallCPerS: 0.12, atC: 60, heaterLagS: 4, sensorLagS: 4, noiseC: 0.06 },
      this.noise,
    );
    this.fanDuty = Array.from({ length: printer.tools }, () => 0);
    this.truth.fedMm = this.fanDuty.map(() => 0);
  }

  /** Says the banner, as after power-on. */
  greet(): void {
    for (const line of this.personality.banner) this.say(line);
  }

  /** Sends one line. */
  say(line: string): void {
    this.output(`${line}\n`);
  }

  /** Bytes from the line, as text; complete lines are taken, the rest is kept. */
  receive(text: string): void {
    let rest = this.partial + text;
    for (let end = rest.indexOf("\n"); end >= 0; end = rest.indexOf("\n")) {
      const line = rest.slice(0, end).replace(/\r$/, "");
      rest = rest.slice(end + 1);
      if (this.skipsLongLine) this.skipsLongLine = false;
      else this.hear(line);
    }
    if (rest.length > LONGEST_LINE) {
      this.skipsLongLine = true;
      rest = "";
    }
    this.partial = rest;
    this.work();
  }

  /** Lets time pass. */
  advance(seconds: number): void {
    const target = this.nowS + seconds;
    while (this.nowS < target - 1e-9) {
      const until = Math.min(
        target,
        this.nowS + (this.halted ? Infinity : this.planner.untilDoneS),
        this.nextHeatS,
        this.busyAtS,
        this.waitReportS,
        this.nextReportS,
      );
      const step = Math.max(0, until - this.nowS);
      this.nowS = Math.max(this.nowS, until);
      if (!this.halted) this.move(step);
      if (this.nowS >= this.nextHeatS - 1e-9) this.heat();
      if (this.halted) continue;
      if (this.nowS >= this.busyAtS - 1e-9) {
        this.say("echo:busy: processing");
        this.busyAtS += BUSY_EVERY_S;
      }
      if (this.nowS >= this.waitReportS - 1e-9) {
        this.say(` ${this.temperatureText()}`);
        this.waitReportS += 1;
      }
      if (this.nowS >= this.nextReportS - 1e-9) {
        this.say(` ${this.temperatureText()}`);
        this.nextReportS += this.reportEveryS;
      }
      this.work();
    }
  }

  /** Whether it waits for anything but the next line. */
  get idle(): boolean {
    return this.wait === null && this.lines.length === 0 && this.planner.empty;
  }

  /** Power off and on: what was not saved is gone, nothing is homed, metal stays hot. */
  powerCycle(): void {
    this.stopEverything();
    this.halted = false;
    this.memory.load();
    this.lines.length = 0;
    this.partial = "";
    this.lastNumber = 0;
    this.linesTaken = 0;
    this.reportEveryS = 0;
    this.nextReportS = Infinity;
    this.relative = this.relativeE = this.inches = false;
    this.feedPercent = this.flowPercent = 100;
    this.tool = 0;
    this.drawnBack = false;
    this.display = "";
    this.place.x = this.place.y = this.place.z = this.place.e = 0;
    this.shift.x = this.shift.y = this.shift.z = this.shift.e = 0;
    this.greet();
  }

  /** Everything off, at once, until a reset. */
  halt(why: string): void {
    this.stopEverything();
    this.halted = true;
    this.lines.length = 0;
    this.say(`Error:${why}`);
  }

  /** Starts anew once the line at hand is answered. */
  restartSoon(): void {
    this.restarts = true;
  }

  /** From here on the ruler counts the filament, once everything planned is fed. */
  markFilament(): void {
    this.markNextMove = true;
    if (this.planner.empty) this.zeroFilament();
  }

  private zeroFilament(): void {
    this.truth.fedMm[this.tool] = 0;
    this.truth.feeds.length = 0;
  }

  /** Gives up waiting for heat. */
  stopWaiting(): void {
    if (this.wait?.reportsHeat) this.endWait();
  }

  /** Forgets planned moves. */
  stopMoves(): void {
    this.planner.clear();
  }

  setReportEvery(seconds: number): void {
    this.reportEveryS = seconds;
    this.nextReportS = seconds > 0 ? this.nowS + seconds : Infinity;
  }

  pidOf(tool: number): Pid {
    const suffix = tool === 0 ? "" : `@${tool}`;
    const part = (name: string, otherwise: number) => this.memory.get(`nozzle${name}${suffix}`, otherwise);
    return { p: part("P", 16), i: part("I", 0.9), d: part("D", 60) };
  }

  get bedPid(): Pid {
    return { p: this.memory.get("bedP", 60), i: this.memory.get("bedI", 1), d: this.memory.get("bedD", 300) };
  }

  /** `T:200.0 /200.0 B:60.0 /60.0 @:64 B@:30` */
  temperatureText(): string {
    const say = (name: string, heater: Heater) => `${name}:${heater.measuredC.toFixed(1)} /${heater.setC.toFixed(1)}`;
    const tools = this.nozzles.length > 1 ? this.nozzles.map((heater, tool) => say(`T${tool}`, heater)) : [];
    const power = (heater: Heater) => Math.round(heater.power * 127);
    const active = this.nozzles[this.tool];
    return [say("T", active), say("B", this.bed), ...tools, `@:${power(active)}`, `B@:${power(this.bed)}`].join(" ");
  }

  /**
   * Plans a move to where the axes shall be, in its own coordinates; what is outside the bed is cut off once an axis is homed.
   * Filament is not fed through a cold nozzle.
   */
  planMove(to: Partial<Place>, feedMmS: number): void {
    const target = { ...this.place, ...to };
    const limits = this.axisRange();
    for (const axis of ["x", "y", "z"] as const) {
      if (this.homed[axis]) target[axis] = clamp(target[axis] + this.shift[axis], ...limits[axis]) - this.shift[axis];
    }
    const dx = target.x - this.place.x;
    const dy = target.y - this.place.y;
    const dz = target.z - this.place.z;
    let de = target.e - this.place.e;
    Object.assign(this.place, target);
    if (de !== 0 && this.nozzles[this.tool].trueC < COLDEST_FEED_C) {
      this.say(
        `echo:too cold to feed: nozzle ${this.nozzles[this.tool].trueC.toFixed(0)} C, needs ${COLDEST_FEED_C} C`,
      );
      de = 0;
    }
    const path = Math.hypot(dx, dy, dz);
    const lengthMm = path > 1e-9 ? path : Math.abs(de);
    if (lengthMm < 1e-9) return;
    this.motorsOn = true;
    const scaled = (feedMmS * this.feedPercent) / 100;
    const share = (d: number) => Math.abs(d) / lengthMm;
    const most = (id: string, otherwise: number) => this.memory.get(id, otherwise);
    const xy = most("highestFeed", 300);
    const caps = [
      share(dx) > 0 ? most("highestFeedX", xy) / share(dx) : Infinity,
      share(dy) > 0 ? most("highestFeedY", xy) / share(dy) : Infinity,
      share(dz) > 0 ? most("highestFeedZ", this.printer.highestFeedZMmS) / share(dz) : Infinity,
      share(de) > 0 ? most("highestFeedE", this.printer.highestFeedEMmS) / share(de) : Infinity,
    ];
    const kind = path < 1e-9 ? "retract" : de > 0 ? "print" : "travel";
    const shared = most("sharedAcceleration", 1000);
    this.planner.add(
      {
        dx,
        dy,
        dz,
        marks: this.markNextMove,
        de: (de * (de > 0 && path > 1e-9 ? this.flowPercent : 100)) / 100,
        cruiseMmS: Math.max(0.05, Math.min(scaled, ...caps)),
      },
      {
        accelerationMmS2: Math.max(1, most(`${kind}Acceleration`, shared)),
        ...("junctionDeviation" in this.memory.inForce
          ? { deviationMm: most("junctionDeviation", 0.02) }
          : { jerkMmS: most("jerkX", most("jerkPerMinuteX", most("squareCornerSpeed", 8))) }),
      },
    );
    this.markNextMove = false;
  }

  /** Where each axis may go, machine coordinates. */
  axisRange(): { x: [number, number]; y: [number, number]; z: [number, number] } {
    const { x, y } = bedCentre(this.printer);
    const halfX = this.printer.bedWidthMm / 2;
    const halfY = bedDepthMm(this.printer) / 2;
    return { x: [x - halfX, x + halfX], y: [y - halfY, y + halfY], z: [0, this.printer.buildHeightMm] };
  }

  private stopEverything(): void {
    this.planner.clear();
    for (const heater of [...this.nozzles, this.bed]) heater.switchOff();
    this.fanDuty.fill(0);
    this.motorsOn = false;
    this.homed.x = this.homed.y = this.homed.z = false;
    this.wait = null;
    this.tune = null;
    this.busyAtS = this.waitReportS = Infinity;
  }

  private hear(text: string): void {
    if (this.halted || text.trim() === "") return;
    // Emergencies do not wait for their turn.
    const bare = text.replace(/^N\d+\s*/i, "").trim();
    if (/^M112\b/i.test(bare)) return this.halt("emergency stop, switch off and on to go on");
    if (this.personality.capabilities.EMERGENCY_STOP) {
      if (/^M108\b/i.test(bare)) this.stopWaiting();
      if (/^M410\b/i.test(bare)) this.stopMoves();
    }
    this.lines.push(text);
  }

  private work(): void {
    for (;;) {
      if (this.halted) return;
      if (this.wait) {
        if (!this.wait.over(this)) return;
        this.endWait();
      }
      const text = this.lines.shift();
      if (text === undefined) return;
      this.take(text);
    }
  }

  private take(text: string): void {
    const problem = numberedProblem(text, this.lastNumber);
    if (problem) {
      this.say(`Error:${problem}`);
      this.say(`Resend: ${this.lastNumber + 1}`);
      if (this.personality.resendSaysOk) this.say("ok");
      return;
    }
    const line = readTalkLine(text);
    if (line.number !== null) this.lastNumber = line.number;
    this.linesTaken++;
    const wait = this.run(line, text);
    if (this.halted) return;
    if (!wait || wait.over(this)) {
      this.finish(wait ?? noWait, line);
      return;
    }
    this.wait = { ...wait, then: (machine) => machine.finish(wait, line) };
    this.busyAtS = wait.reportsHeat ? Infinity : this.nowS + BUSY_EVERY_S;
    this.waitReportS = wait.reportsHeat ? this.nowS + 1 : Infinity;
  }

  private run(line: TalkLine, text: string): Wait | null {
    const handler: Handler | undefined = handlers[line.code];
    const answer = handler === undefined ? "unknown" : handler(this, line);
    if (answer !== "unknown") return answer ?? null;
    if (line.code !== "" && this.memory.has(line.code)) {
      const named = line.code.includes("_");
      const taken = this.memory.set(line.code, line.words);
      if (taken === 0 && named)
        for (const value of this.memory.report(line.code)) this.say(this.personality.reportPrefix + value);
      return null;
    }
    this.say(
      this.personality.unknown(
        text
          .replace(/^N\d+\s*|\*\d+\s*$/gi, "")
          .trim()
          .slice(0, 80),
      ),
    );
    return null;
  }

  private finish(wait: Wait, line: TalkLine): void {
    wait.then?.(this);
    this.ok(line);
  }

  private ok(line: TalkLine): void {
    this.say(line.code === "M105" ? `ok ${this.temperatureText()}` : "ok");
    if (!this.restarts) return;
    this.restarts = false;
    this.powerCycle();
  }

  private endWait(): void {
    const ended = this.wait;
    this.wait = null;
    this.busyAtS = this.waitReportS = Infinity;
    ended?.then?.(this);
  }

  private move(seconds: number): void {
    const done = this.planner.advance(seconds);
    if (!done) return;
    if (done.marks) this.zeroFilament();
    for (const axis of ["x", "y", "z"] as const) {
      const commanded = done[`d${axis}`];
      if (Math.abs(commanded) < 1e-9) continue;
      const id = `steps${axis.toUpperCase()}`;
      const steps = this.memory.get(id, 1) / (this.memory.factory[id] ?? 1);
      this.truth.lastMoveMm[axis] = Math.abs(commanded) * this.personality.truths.axisLength[axis] * steps;
    }
    if (Math.abs(done.de) < 1e-9) return;
    const fed = done.de * this.feedTruth(this.tool) * this.slip(done.de / done.seconds);
    this.truth.fedMm[this.tool] += fed;
    if (Math.hypot(done.dx, done.dy, done.dz) < 1e-9) this.truth.feeds.push(fed);
    this.flowMm += Math.max(0, done.de);
  }

  /** Share of the filament asked for that is really fed, with the steps in force. */
  feedTruth(tool: number): number {
    const id = tool === 0 ? "extruderSteps" : `extruderSteps@${tool}`;
    const steps = this.memory.get(id, 1) / (this.memory.factory[id] ?? 1);
    return (this.personality.truths.extruderFeed[tool] ?? 1) * steps;
  }

  private slip(feedMmS: number): number {
    const { slipFlowMm3S, slipFlowPerC } = this.personality.truths;
    const most = Math.max(1, slipFlowMm3S + slipFlowPerC * (this.nozzles[this.tool].trueC - 210));
    const flow = feedMmS * FILAMENT_MM2;
    // Past the limit the gear skips: what does not melt is not fed.
    return flow <= most ? 1 : (most / flow) ** 1.5;
  }

  private heat(): void {
    const flowGPerS = ((this.flowMm * FILAMENT_MM2) / 1000 / HEAT_STEP_S) * materials.PLA.densityGCm3;
    this.flowMm = 0;
    this.nextHeatS += HEAT_STEP_S;
    if (this.tune) this.turnRelay();
    let ranAway = this.bed.advance(HEAT_STEP_S, 0, this.bedPid);
    this.nozzles.forEach((heater, tool) => {
      ranAway = heater.advance(HEAT_STEP_S, tool === this.tool ? flowGPerS : 0, this.pidOf(tool)) || ranAway;
    });
    if (ranAway && !this.halted) this.halt("thermal runaway, heaters off, switch off and on to go on");
  }

  private turnRelay(): void {
    const { relay, heater } = this.tune!;
    const happened = relay.take(this.nowS, heater.trueC);
    heater.forcedPower = relay.power;
    if (happened) this.say(`autotune: cycle ${relay.cycles}, swing ${relay.lastSwingC.toFixed(1)} C`);
    if (happened !== "done") return;
    heater.switchOff();
    const { p, i, d } = relay.result();
    this.say(`autotune done: Kp: ${p.toFixed(2)} Ki: ${i.toFixed(2)} Kd: ${d.toFixed(2)}`);
    this.tune = null;
  }
}
