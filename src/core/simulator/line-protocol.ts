/** The line protocol as the printer's end has it: lines in, numbers and checksums looked at, `ok` when a line is done, `busy` until then. */
import { readTalkLine, TalkLine } from "../gcode/talk-line";
import { numberedProblem } from "./numbering";
import type { Parts, Wait } from "./parts";

/** A busy printer says so this often. Common practice, no source. */
export const BUSY_EVERY_S = 2;
/** A line longer than this is cut: no printer holds more. */
const LONGEST_LINE = 512;

export interface ProtocolHost extends Parts {
  readonly halted: boolean;
  temperatureText(): string;
  /** Looks at a line as it arrives, before its turn; true if that was all there was to it. */
  interrupt(text: string): boolean;
  /** Carries a line out; what it returns must be over before `ok` is said. */
  carryOut(line: TalkLine, text: string): Wait | void;
  /** The line is done. */
  answer(line: TalkLine): void;
}

export class LineProtocol {
  /** Number of the last numbered line that was taken. */
  lastNumber = 0;
  /** Lines taken since power-on, for looking whether any was taken twice. */
  linesTaken = 0;
  private lines: string[] = [];
  /** How many of `lines` are done: taking from the front of a long list would move all the others, each time. */
  private done = 0;
  private partial = "";
  private skipsLongLine = false;
  private wait: Wait | null = null;
  private busyAtS = Infinity;
  private waitReportS = Infinity;
  private nextReportS = Infinity;
  private reportEveryS = 0;

  constructor(private readonly host: ProtocolHost) {}

  /** Nothing waits but the next line. */
  get idle(): boolean {
    return this.wait === null && this.done === this.lines.length;
  }

  /** When it has something to say by itself, s. */
  get nextS(): number {
    return Math.min(this.busyAtS, this.waitReportS, this.nextReportS);
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

  /** Says what is due by now, and takes what may be taken. */
  tick(): void {
    const { nowS } = this.host;
    if (nowS >= this.busyAtS - 1e-9) {
      this.host.say("echo:busy: processing");
      this.busyAtS += BUSY_EVERY_S;
    }
    if (nowS >= this.waitReportS - 1e-9) {
      this.host.say(` ${this.host.temperatureText()}`);
      this.waitReportS += 1;
    }
    if (nowS >= this.nextReportS - 1e-9) {
      this.host.say(` ${this.host.temperatureText()}`);
      this.nextReportS += this.reportEveryS;
    }
    this.work();
  }

  setReportEvery(seconds: number): void {
    this.reportEveryS = seconds;
    this.nextReportS = seconds > 0 ? this.host.nowS + seconds : Infinity;
  }

  /** Gives up waiting for heat. */
  stopWaiting(): void {
    if (this.wait?.reportsHeat) this.endWait();
  }

  /** Forgets what it waits for. */
  forgetWait(): void {
    this.wait = null;
    this.busyAtS = this.waitReportS = Infinity;
  }

  /** Forgets the lines it has. */
  forgetLines(): void {
    this.lines = [];
    this.done = 0;
  }

  /** As after power-on. */
  reset(): void {
    this.forgetWait();
    this.forgetLines();
    this.partial = "";
    this.lastNumber = 0;
    this.linesTaken = 0;
    this.setReportEvery(0);
  }

  private hear(text: string): void {
    if (this.host.halted || text.trim() === "") return;
    if (!this.host.interrupt(text)) this.lines.push(text);
  }

  private work(): void {
    for (;;) {
      if (this.host.halted) return;
      if (this.wait) {
        if (!this.wait.over(this.host)) return;
        this.endWait();
      }
      if (this.done === this.lines.length) return this.forgetLines();
      this.take(this.lines[this.done++]);
    }
  }

  private take(text: string): void {
    const problem = numberedProblem(text, this.lastNumber);
    if (problem) {
      this.host.say(`Error:${problem}`);
      this.host.say(`Resend: ${this.lastNumber + 1}`);
      if (this.host.personality.resendSaysOk) this.host.say("ok");
      return;
    }
    const line = readTalkLine(text);
    if (line.number !== null) this.lastNumber = line.number;
    this.linesTaken++;
    const wait = this.host.carryOut(line, text);
    if (this.host.halted) return;
    if (!wait || wait.over(this.host)) {
      wait?.then?.(this.host);
      this.host.answer(line);
      return;
    }
    const { host } = this;
    this.wait = {
      ...wait,
      then() {
        wait.then?.(host);
        host.answer(line);
      },
    };
    this.busyAtS = wait.reportsHeat ? Infinity : host.nowS + BUSY_EVERY_S;
    this.waitReportS = wait.reportsHeat ? host.nowS + 1 : Infinity;
  }

  private endWait(): void {
    const ended = this.wait;
    this.forgetWait();
    ended?.then?.(this.host);
  }
}
