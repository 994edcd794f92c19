/** What makes one simulated printer another than the next. */
import { Printer } from "../shelf/printer";

/** What is really so, whatever the printer's values say. */
export interface Truths {
  /** Share of the filament asked for that the extruder really feeds with the factory's steps, by tool. */
  extruderFeed: number[];
  /** How long a millimetre of each axis really is. */
  axisLength: { x: number; y: number; z: number };
  /** Where the nozzle really stands when it is told to go to the middle of the bed. */
  bedCentreOffsetMm: { x: number; y: number };
  /** Flow at which the hot end stops keeping up at 210 °C, mm³/s. */
  slipFlowMm3S: number;
  /** How much more one degree more lets through, mm³/s. */
  slipFlowPerC: number;
  /** How many degrees more the thermometer of the nozzle says than there are. */
  nozzleReadsHighC: number;
}

export interface Personality {
  firmwareName: string;
  /** Said after power-on and reset. */
  banner: string[];
  /** In front of the lines of a report of values. */
  reportPrefix: string;
  capabilities: Record<string, boolean>;
  /** The answer to a command it does not know. */
  unknown(command: string): string;
  /** After `Resend` some firmwares also say `ok`, some do not. */
  resendSaysOk: boolean;
  /** What the screen can show of a text. */
  screen(text: string): string;
  /** Families of values it has. */
  valueFamilies: readonly string[];
  /** Values it has besides those of its families, or other than the usual. */
  values?(printer: Printer): Record<string, number>;
  truths: Truths;
}
