/** A program tried on a simulated printer, line by line: what it answers, where its nozzle stands, how warm it is, and what time has passed. */
import type { Printer } from "../shelf/printer";
import { SimulatedPrinter } from "../simulator/machine";
import { personalities } from "../simulator/personalities";

/** What has become of it. */
export interface Tried {
  /** Lines taken; the next one is this line, from 0. */
  next: number;
  /** What was sent and what came back, the last of it. */
  talk: { line: number; sent: string; heard: string[] }[];
  place: { x: number; y: number; z: number };
  nozzleC: number;
  bedC: number;
  seconds: number;
  /** It stands still and will not go on. */
  isHalted: boolean;
  /** It waits for a person (M0). */
  waits: boolean;
}

const STEP_S = 0.25;
/** A line that takes longer than this does not end, s: two hours of heating are none. */
const LONGEST_S = 7200;
const MOST_TALK = 200;
/** So long nothing happens before it is taken to wait for a person, s. */
const WAITS_S = 30;

export class TryOut {
  private heard: string[] = [];
  private rest = "";
  private readonly machine: SimulatedPrinter;
  private next = 0;
  private readonly talk: Tried["talk"] = [];
  private waits = false;

  constructor(
    printer: Printer,
    private readonly lines: readonly string[],
  ) {
    this.machine = new SimulatedPrinter(printer, personalities[printer.dialect], (text) => this.hear(text));
  }

  get isDone(): boolean {
    return this.next >= this.lines.length || this.machine.halted;
  }

  /** Sends the next line and lets it be carried out. */
  step(): void {
    if (this.isDone) return;
    const line = this.next++;
    // A printer is sent no comments.
    const sent = this.lines[line].replace(/;.*$/, "").trim();
    if (sent === "") return;
    this.heard = [];
    const pauses = /^M0*[01]\b/i.test(sent);
    this.machine.receive(`${sent}\n`);
    let passedS = 0;
    const isOpen = () =>
      !this.machine.halted && (!this.heard.some((one) => one.startsWith("ok")) || !this.machine.planner.empty);
    while (isOpen() && passedS < (pauses ? WAITS_S : LONGEST_S)) {
      this.machine.advance(STEP_S);
      passedS += STEP_S;
    }
    // A person is taken to have answered, and that is said.
    this.waits = pauses;
    if (pauses && isOpen()) this.machine.stopWaiting();
    this.talk.push({ line, sent, heard: this.heard });
    if (this.talk.length > MOST_TALK) this.talk.shift();
  }

  get state(): Tried {
    const { state, nozzles, bed, tool, nowS, halted } = this.machine;
    return {
      next: this.next,
      talk: [...this.talk],
      place: { x: state.x, y: state.y, z: state.z },
      nozzleC: nozzles[tool].trueC,
      bedC: bed.trueC,
      seconds: nowS,
      isHalted: halted,
      waits: this.waits,
    };
  }

  private hear(text: string): void {
    const lines = (this.rest + text).split("\n");
    this.rest = lines.pop() ?? "";
    this.heard.push(...lines);
  }
}
