/** The state of a machine as far as commands make it: one plain value, followed by reading, talk, simulator and checks alike. */
import { filamentAreaMm2 } from "../material/bead";
import { EventKind } from "./event-kind";

/** Tools and fans counted from 0 up to here are followed; a larger index is a slip, and remembered nowhere. */
export const MOST_TOOLS = 32;

/** A figure for each axis and the extruder. */
export interface PerAxis {
  x: number;
  y: number;
  z: number;
  e: number;
}

/** Figures nobody has told are NaN, in JSON null (see `stateFromJson`). Everything in mm, s and °C, whatever the program counts in. */
export interface MachineState {
  /** Millimetres in one unit of the program: 1, or 25.4 behind G20. */
  unitMm: number;
  /** Positions count from where the nozzle stands (G91). */
  relative: boolean;
  /** The extruder counts from where it stands (M83). */
  relativeE: boolean;
  /** Plane of arcs: 17 is XY, 18 is ZX, 19 is YZ. */
  plane: number;
  /** The motion that a line of axis words alone repeats: 0 to 3. */
  motion: number;
  /** Where it stands, machine coordinates. */
  x: number;
  y: number;
  z: number;
  e: number;
  /** Added to a program's coordinate to get the machine's (G92 names, it does not move). */
  offsetX: number;
  offsetY: number;
  offsetZ: number;
  offsetE: number;
  /** Whether it was said where an axis stands: by homing, by naming, by an absolute move. */
  knownX: boolean;
  knownY: boolean;
  knownZ: boolean;
  /** Whether an axis was homed since the motors came on. */
  homedX: boolean;
  homedY: boolean;
  homedZ: boolean;
  /** Feed in force, mm/min of the machine. */
  feedMmMin: number;
  tool: number;
  /** Set temperature by tool, °C. */
  nozzleC: number[];
  bedC: number;
  /** Duty by fan, 0–255. */
  fanDuty: number[];
  speedPercent: number;
  /** By tool. */
  flowPercent: number[];
  /** Thickness of the filament by which its volume is counted (M200), mm, by tool; 0 where its length is. */
  volumeDiameterMm: number[];
  printAccelerationMmS2: number;
  travelAccelerationMmS2: number;
  retractAccelerationMmS2: number;
  axisAccelerationMmS2: PerAxis;
  axisFeedMmS: PerAxis;
  jerkMmS: PerAxis;
  junctionDeviationMm: number;
  /** By tool. */
  pressureAdvanceS: number[];
  /** What G10 draws back; NaN where the program leaves it to the printer. */
  retractionMm: number;
  retractionMmS: number;
  /** Added when it is given back, mm. */
  restoreExtraMm: number;
  /** Drawn back by G10. */
  drawnBack: boolean;
  /** See `homing.ts`. */
  homeOffsetMm: { x: number; y: number; z: number };
  motorsOn: boolean;
  display: string;
}

/** What was told so far: the same value, under the name it has where a printer is talked to. */
export type Told = MachineState;

const untold = (): PerAxis => ({ x: NaN, y: NaN, z: NaN, e: NaN });

/** The state of a machine that has been told nothing. */
export function freshState(): MachineState {
  return {
    unitMm: 1,
    relative: false,
    relativeE: false,
    plane: 17,
    motion: 1,
    x: 0,
    y: 0,
    z: 0,
    e: 0,
    offsetX: 0,
    offsetY: 0,
    offsetZ: 0,
    offsetE: 0,
    knownX: false,
    knownY: false,
    knownZ: false,
    homedX: false,
    homedY: false,
    homedZ: false,
    feedMmMin: 1500,
    tool: 0,
    nozzleC: [],
    bedC: NaN,
    fanDuty: [],
    speedPercent: 100,
    flowPercent: [],
    volumeDiameterMm: [],
    printAccelerationMmS2: NaN,
    travelAccelerationMmS2: NaN,
    retractAccelerationMmS2: NaN,
    axisAccelerationMmS2: untold(),
    axisFeedMmS: untold(),
    jerkMmS: untold(),
    junctionDeviationMm: NaN,
    pressureAdvanceS: [],
    retractionMm: NaN,
    retractionMmS: NaN,
    restoreExtraMm: 0,
    drawnBack: false,
    homeOffsetMm: { x: 0, y: 0, z: 0 },
    motorsOn: false,
    display: "",
  };
}

/** A figure of a list by tool or fan; indexes that cannot be are passed over, so that the list stays short. */
function setAt(list: number[], index: number, value: number): void {
  if (!Number.isInteger(index) || index < 0 || index >= MOST_TOOLS) return;
  while (list.length < index) list.push(NaN);
  list[index] = value;
}

const axes = ["x", "y", "z", "e"] as const;

/** Takes one told quantity into the state. */
export function takeTold(state: MachineState, kind: EventKind, value: number, index: number): void {
  switch (kind) {
    case EventKind.nozzleTemperature:
    case EventKind.nozzleTemperatureWait:
      return setAt(state.nozzleC, index, value);
    case EventKind.bedTemperature:
    case EventKind.bedTemperatureWait:
      state.bedC = value;
      return;
    case EventKind.fan:
      return setAt(state.fanDuty, index, value);
    case EventKind.speedFactor:
      if (value > 0) state.speedPercent = value;
      return;
    case EventKind.flowFactor:
      if (value > 0) setAt(state.flowPercent, index, value);
      return;
    case EventKind.printAcceleration:
      state.printAccelerationMmS2 = value;
      return;
    case EventKind.travelAcceleration:
      state.travelAccelerationMmS2 = value;
      return;
    case EventKind.retractAcceleration:
      state.retractAccelerationMmS2 = value;
      return;
    case EventKind.jerkX:
    case EventKind.jerkY:
    case EventKind.jerkZ:
    case EventKind.jerkE:
      state.jerkMmS[axes[kind - EventKind.jerkX]] = value;
      return;
    case EventKind.junctionDeviation:
      state.junctionDeviationMm = value;
      return;
    case EventKind.pressureAdvance:
      return setAt(state.pressureAdvanceS, index, value);
    case EventKind.tool:
      state.tool = value;
      return;
    case EventKind.motorsOn:
      state.motorsOn = true;
      return;
    case EventKind.motorsOff:
      state.motorsOn = state.homedX = state.homedY = state.homedZ = false;
      return;
    case EventKind.firmwareRetractLength:
      state.retractionMm = value;
      return;
    case EventKind.firmwareRetractSpeed:
      state.retractionMmS = value;
      return;
    case EventKind.axisAccelerationX:
    case EventKind.axisAccelerationY:
    case EventKind.axisAccelerationZ:
    case EventKind.axisAccelerationE:
      state.axisAccelerationMmS2[axes[kind - EventKind.axisAccelerationX]] = value;
      return;
    case EventKind.axisFeedX:
    case EventKind.axisFeedY:
    case EventKind.axisFeedZ:
    case EventKind.axisFeedE:
      state.axisFeedMmS[axes[kind - EventKind.axisFeedX]] = value;
      return;
    case EventKind.dwell:
    case EventKind.toolOffset:
    case EventKind.someMotorsOff:
      return;
  }
}

/** Whether any heater was told to be warm. */
export function isHeating(state: Pick<MachineState, "nozzleC" | "bedC">): boolean {
  return state.bedC > 0 || state.nozzleC.some((target) => target > 0);
}

/** Whether X, Y and Z are all homed. */
export function isHomed(state: MachineState): boolean {
  return state.homedX && state.homedY && state.homedZ;
}

/** The flow factor of the tool in use, as a share. */
export function flowShare(state: MachineState): number {
  const percent = state.flowPercent[state.tool];
  return percent > 0 ? percent / 100 : 1;
}

/** Filament of the tool in use in one of its program's units, mm: 1, but where it is counted by volume 1 mm³ of it. */
export function mmPerE(state: Readonly<MachineState>): number {
  const diameterMm = state.volumeDiameterMm[state.tool];
  return diameterMm > 0 ? 1 / filamentAreaMm2(diameterMm) : 1;
}

/** Counts the filament of a tool by its volume from here on; by its length for a thickness of 0. */
export function countByVolume(state: MachineState, tool: number, diameterMm: number): void {
  setAt(state.volumeDiameterMm, tool, diameterMm);
}

/** A state out of its JSON; figures that were told to nobody come back as NaN, and what an older form lacks is untold. */
export function stateFromJson(text: string): MachineState {
  const fresh = freshState() as unknown as Record<string, unknown>;
  const parsed = JSON.parse(text, (_, value: unknown) => (value === null ? NaN : value)) as Record<string, unknown>;
  for (const key of Object.keys(fresh)) if (typeof parsed[key] === typeof fresh[key]) fresh[key] = parsed[key];
  return fresh as unknown as MachineState;
}
