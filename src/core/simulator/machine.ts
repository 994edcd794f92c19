/**
 * The simulated printer: lines in, answers out, and a clock that is moved from outside. What a command means comes from the command
 * table; what it takes in time, heat and filament comes from its parts.
 */
import { hasCommand } from "../machine/command";
import { commandFor } from "../machine/commands";
import { countedAfterHomingMm } from "../machine/homing";
import { followStraight } from "../machine/motion";
import { obey } from "../machine/obey";
import { Reading, readingOf } from "../machine/reading";
import { flowShare, freshState, MachineState, mmPerE } from "../machine/state";
import { TalkLine } from "../gcode/talk-line";
import { COLDEST_FEED_C } from "../material/materials";
import { bedCentre, bedDepthMm, Printer } from "../shelf/printer";
import { clamp } from "../units";
import { Extrusion, Truth } from "./extrusion";
import { handlers } from "./handlers";
import { Heater } from "./heater";
import { HeaterBank, HEAT_STEP_S } from "./heater-bank";
import { LineProtocol, ProtocolHost } from "./line-protocol";
import { factoryValues, Memory, Values } from "./memory";
import { Noise } from "./noise";
import type { StatePlace, Wait } from "./parts";
import { Personality } from "./personality";
import { Motion, Planner } from "./planner";

export { BUSY_EVERY_S } from "./line-protocol";

const axes = ["x", "y", "z"] as const;

export class SimulatedPrinter implements ProtocolHost {
  readonly memory: Memory;
  readonly noise: Noise;
  readonly heat: HeaterBank;
  readonly extrusion: Extrusion;
  readonly reading: Reading;
  /** Sends one line. */
  readonly say = (line: string): void => this.output(`${line}\n`);
  private readonly protocol = new LineProtocol(this);
  private clockS = 0;
  private machineState = freshState();
  private isHalted = false;
  private nextHeatS = HEAT_STEP_S;
  private restarts = false;

  constructor(
    readonly printer: Printer,
    readonly personality: Personality,
    private readonly output: (text: string) => void,
    options: { saved?: Values; seed?: number } = {},
  ) {
    this.noise = new Noise(options.seed ?? 7);
    this.reading = readingOf(printer);
    this.memory = new Memory(
      factoryValues(printer, personality),
      options.saved,
      this.reading.feedsPerMinute,
      printer.tools,
    );
    this.heat = new HeaterBank(printer, this.memory, this.noise);
    this.extrusion = new Extrusion(this.memory, personality, printer.tools, printer.lookAheadMoves);
  }

  get nowS(): number {
    return this.clockS;
  }

  get state(): MachineState {
    return this.machineState;
  }

  get halted(): boolean {
    return this.isHalted;
  }

  get nozzles(): readonly Heater[] {
    return this.heat.nozzles;
  }

  get bed(): Heater {
    return this.heat.bed;
  }

  get planner(): Planner {
    return this.extrusion.planner;
  }

  get truth(): Truth {
    return this.extrusion.truth;
  }

  get fanDuty(): readonly number[] {
    return this.nozzles.map((_, fan) => this.state.fanDuty[fan] ?? 0);
  }

  get display(): string {
    return this.personality.screen(this.state.display);
  }

  get linesTaken(): number {
    return this.protocol.linesTaken;
  }

  /** Where it thinks the planned moves will end, as a program counts. */
  get place(): StatePlace {
    const { x, y, z, e, offsetX, offsetY, offsetZ, offsetE } = this.state;
    return { x: x - offsetX, y: y - offsetY, z: z - offsetZ, e: e - offsetE };
  }

  get homed(): { x: boolean; y: boolean; z: boolean } {
    const { homedX, homedY, homedZ } = this.state;
    return { x: homedX, y: homedY, z: homedZ };
  }

  /** Whether it waits for anything but the next line. */
  get idle(): boolean {
    return this.protocol.idle && this.planner.empty;
  }

  /** Says the banner, as after power-on. */
  greet(): void {
    for (const line of this.personality.banner) this.say(line);
  }

  /** Bytes from the line, as text. */
  receive(text: string): void {
    this.protocol.receive(text);
  }

  /** Lets time pass. */
  advance(seconds: number): void {
    const target = this.clockS + seconds;
    while (this.clockS < target - 1e-9) {
      const until = Math.min(
        target,
        this.clockS + (this.halted ? Infinity : this.planner.untilDoneS),
        this.nextHeatS,
        this.halted ? Infinity : this.protocol.nextS,
      );
      const step = Math.max(0, until - this.clockS);
      this.clockS = Math.max(this.clockS, until);
      if (!this.halted) this.extrusion.advance(step, this.tool, this.nozzles[this.tool].trueC);
      if (this.clockS >= this.nextHeatS - 1e-9) this.heatUp();
      if (!this.halted) this.protocol.tick();
    }
  }

  /** Power off and on: what was not saved is gone, nothing is homed, metal stays hot. */
  powerCycle(): void {
    this.stopEverything();
    this.isHalted = false;
    this.memory.load();
    this.protocol.reset();
    this.machineState = freshState();
    this.greet();
  }

  /** Everything off, at once, until a reset. */
  halt(why: string): void {
    this.stopEverything();
    this.isHalted = true;
    this.protocol.forgetLines();
    this.say(`Error:${why}`);
  }

  restartSoon(): void {
    this.restarts = true;
  }

  stopWaiting(): void {
    this.protocol.stopWaiting();
  }

  setReportEvery(seconds: number): void {
    this.protocol.setReportEvery(seconds);
  }

  countFrom(number: number): void {
    this.protocol.lastNumber = number;
  }

  temperatureText(): string {
    return this.heat.text(this.tool);
  }

  /** Share of the filament asked for that is really fed, with the steps in force. */
  feedTruth(tool: number): number {
    return this.extrusion.feedShare(tool);
  }

  /** The tool in use; one it does not have cannot be. */
  get tool(): number {
    return this.state.tool < this.printer.tools ? this.state.tool : 0;
  }

  /** Where each axis may go, machine coordinates. */
  axisRange(): { x: [number, number]; y: [number, number]; z: [number, number] } {
    const { x, y } = bedCentre(this.printer);
    const halfX = this.printer.bedWidthMm / 2;
    const halfY = bedDepthMm(this.printer) / 2;
    return { x: [x - halfX, x + halfX], y: [y - halfY, y + halfY], z: [0, this.printer.buildHeightMm] };
  }

  /** Emergencies do not wait for their turn. */
  interrupt(text: string): boolean {
    const bare = text.replace(/^N\d+\s*/i, "").trim();
    if (/^M112\b/i.test(bare)) {
      this.halt("emergency stop, switch off and on to go on");
      return true;
    }
    if (this.personality.capabilities.EMERGENCY_STOP) {
      if (/^M108\b/i.test(bare)) this.stopWaiting();
      if (/^M410\b/i.test(bare)) this.planner.clear();
    }
    return false;
  }

  carryOut(line: TalkLine, text: string): Wait | void {
    const command = commandFor(line.code);
    const handler = handlers[line.code] ?? (command?.code.startsWith("T") ? handlers.T : undefined);
    const known =
      command && hasCommand(command, this.reading) && (handler || this.memory.has(line.code) || command.act);
    if (!known) return this.sayUnknown(text);
    const before = { ...this.state };
    this.machineState.homeOffsetMm = this.homeOffset();
    obey(this.state, command, line, this.reading);
    if (command.moves === "straight" || command.moves?.endsWith("clockwise")) followStraight(this.state, line);
    if (command.moves === "home") this.land(line);
    this.holdInside();
    const answer = handler?.(this, line, before);
    if (answer === "unknown") {
      Object.assign(this.machineState, before);
      return this.sayUnknown(text);
    }
    if (this.memory.has(line.code)) this.keepFigures(line);
    return answer;
  }

  answer(line: TalkLine): void {
    this.say(line.code === "M105" ? `ok ${this.temperatureText()}` : "ok");
    if (!this.restarts) return;
    this.restarts = false;
    this.powerCycle();
  }

  /** Plans the way from where the state stood to where it stands. Filament is not fed through a cold nozzle. */
  planFrom(from: Readonly<StatePlace>, feedMmS: number): void {
    const { state } = this;
    const dx = state.x - from.x;
    const dy = state.y - from.y;
    const dz = state.z - from.z;
    let de = (state.e - from.e) * mmPerE(state);
    const nozzleC = this.nozzles[this.tool].trueC;
    if (de !== 0 && nozzleC < COLDEST_FEED_C) {
      this.say(`echo:too cold to feed: nozzle ${nozzleC.toFixed(0)} C, needs ${COLDEST_FEED_C} C`);
      de = 0;
    }
    const moves = Math.hypot(dx, dy, dz) > 1e-9;
    state.motorsOn = true;
    // Laying moves alone are scaled: what is drawn back is given back in full.
    const fed = moves && de > 0 ? de * flowShare(state) : de;
    const kind = !moves ? "retract" : de > 0 ? "print" : "travel";
    this.extrusion.add({ dx, dy, dz, de: fed }, (feedMmS * state.speedPercent) / 100, this.motionFor(kind));
  }

  private motionFor(kind: "retract" | "print" | "travel"): Motion {
    const { printer, memory } = this;
    const of = (id: string, otherwise: number) => memory.get(id, otherwise);
    const xy = of("highestFeed", printer.highestFeedXyMmS);
    const jerk = of("jerkX", of("jerkPerMinuteX", of("squareCornerSpeed", printer.jerkMmS)));
    return {
      accelerationMmS2: Math.max(1, of(`${kind}Acceleration`, of("sharedAcceleration", 1000))),
      axisAccelerationMmS2: {
        x: of("highestAccelerationX", Infinity),
        y: of("highestAccelerationY", Infinity),
        z: of("highestAccelerationZ", printer.highestAccelerationZMmS2),
        e: of("highestAccelerationE", printer.highestAccelerationEMmS2),
      },
      highestFeedMmS: {
        x: of("highestFeedX", xy),
        y: of("highestFeedY", xy),
        z: of("highestFeedZ", printer.highestFeedZMmS),
        e: of("highestFeedE", printer.highestFeedEMmS),
      },
      jerkMmS: jerk,
      jerkZMmS: of("jerkZ", of("jerkPerMinuteZ", printer.jerkZMmS)),
      jerkEMmS: of("jerkE", of("jerkPerMinuteE", printer.jerkEMmS)),
      deviationMm: "junctionDeviation" in memory.inForce ? of("junctionDeviation", 0.02) : 0,
    };
  }

  private homeOffset(): { x: number; y: number; z: number } {
    const { memory } = this;
    return { x: memory.get("homeX", 0), y: memory.get("homeY", 0), z: memory.get("homeZ", 0) };
  }

  /** The axes that were homed stand at their endstops: what they count themselves at is the home offset's business. */
  private land(line: TalkLine): void {
    const { state, truth, personality } = this;
    const range = this.axisRange();
    const all = !axes.some((axis) => line.has(axis.toUpperCase()));
    for (const axis of axes) {
      if (!all && !line.has(axis.toUpperCase())) continue;
      const [endstop] = range[axis];
      const counted = countedAfterHomingMm(endstop, state.homeOffsetMm[axis]);
      state[axis] = counted;
      if (axis !== "z") truth.standsOffMm[axis] = endstop + personality.truths.bedCentreOffsetMm[axis] - counted;
    }
  }

  /** What is outside the machine is cut off, once an axis is homed. */
  private holdInside(): void {
    const { state } = this;
    const range = this.axisRange();
    for (const axis of axes) {
      if (!this.homed[axis]) continue;
      const offset = state.homeOffsetMm[axis];
      state[axis] = clamp(state[axis], range[axis][0] + Math.min(0, offset), range[axis][1] + Math.max(0, offset));
    }
  }

  /** Takes the figures of a value's line into its memory; a named command without figures is a question. */
  private keepFigures(line: TalkLine): void {
    const taken = this.memory.set(line.code, figuresOf(line));
    if (taken > 0 || !line.code.includes("_")) return;
    for (const value of this.memory.report(line.code)) this.say(this.personality.reportPrefix + value);
  }

  private sayUnknown(text: string): void {
    const bare = text.replace(/^N\d+\s*|\*\d+\s*$/gi, "").trim();
    this.say(this.personality.unknown(bare.slice(0, 80)));
  }

  private stopEverything(): void {
    this.planner.clear();
    this.heat.switchOff();
    this.machineState = freshState();
    this.protocol.forgetWait();
  }

  private heatUp(): void {
    this.nextHeatS += HEAT_STEP_S;
    const ranAway = this.heat.advance(this.clockS, this.tool, this.extrusion.takeFlowMm3(), (line) => this.say(line));
    if (ranAway && !this.halted) this.halt("thermal runaway, heaters off, switch off and on to go on");
  }
}

/** S of M204 stands for printing and travelling alike: the memory has a figure for each. */
function figuresOf(line: TalkLine): { name: string; value: number }[] {
  const both = line.code === "M204" ? line.value("S") : NaN;
  if (Number.isNaN(both)) return line.words;
  const named = (name: string) => (line.has(name) ? line.value(name) : both);
  return [
    { name: "P", value: named("P") },
    { name: "T", value: named("T") },
    ...line.words.filter(({ name }) => name === "R"),
  ];
}
