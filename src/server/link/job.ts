/** A job: the lines of a program, sent one after the other, with what is known of the piece at each of them. */
import { recordFieldOf } from "@/core/firmware/on-the-shelf";
import { valueFor } from "@/core/firmware/values";
import { valueLine } from "@/core/firmware/values/change";
import { commandAt, lineEndByteOf } from "@/core/gcode/transmit";
import { dialects } from "@/core/machine/dialects";
import { freshState, Told } from "@/core/machine/state";
import { JobMark, JobSample, JobState, JobStatus, nudgeable, PrintedTrial } from "@/core/link/state";
import { SettingKey, settingFor } from "@/core/settings";
import { Printer } from "@/core/shelf/printer";
import { plainNumber, roundTo } from "@/core/units";
import { JobProgress, jobs } from "../db/jobs";

import type { JobProgram } from "@/core/report/progress";
import { Ledger } from "./ledger";
import type { PrintedByJob } from "../work/runs";
import { LineStream, LinkSession } from "./session";
import { log } from "../log";
import { Refused } from "../refused";

/** How often progress is kept on the disk. */
const KEEP_EVERY_MS = 250;
/** Heaters off and what belongs to it is not held up by a line without an answer. */
const CANCEL_WITHIN_MS = 2000;
/** Changes by hand in one job. */
const MOST_MARKS = 1000;
/** Lifted so far when paused or cancelled, drawn back so far. Common practice, no source. */
const LIFT_MM = 5;
const DRAW_BACK_MM = 2;
/** A sample of the nozzle at least so far above the last. */
const SAMPLE_EVERY_MM = 0.05;

/** Off the piece: the filament drawn back, the nozzle lifted. Understood in millimetres. */
const liftLines = ["G91", "M83", `G1 E-${DRAW_BACK_MM} F1800`, `G1 Z${LIFT_MM} F600`];
const lowerLines = ["G91", "M83", `G1 Z-${LIFT_MM} F600`, `G1 E${DRAW_BACK_MM} F1800`];

/** A line at which a program waits for a person, and one that says on the display what for. */
const waitsForPerson = /^M0*[01](?!\d)/;
const saysOnDisplay = /^M117 +(.+)/;
/** Answered once every move before it is done: sent in place of a stop, so that the printer needs no button of its own. */
const WHEN_STILL = "G4 P1";

/** Lines that make positions and filament count as they did. */
function modeLines({ relative, relativeE }: Told): string[] {
  return [relative ? "G91" : "G90", relativeE ? "M83" : "M82"];
}

/** Lines meant in millimetres, for a printer that counts as `told` says; behind them it counts so again. */
function inMillimetres({ unitMm }: Told, lines: string[]): string[] {
  return unitMm === 1 ? lines : ["G21", ...lines, "G20"];
}

export class Job implements LineStream {
  state: JobState = "running";
  why = "";
  readonly samples: JobSample[] = [];
  /** Line of the program the last line taken stands on. */
  private line = 0;
  /** Byte the next line starts at. */
  private at = 0;
  private linesSent = 0;
  /** Program lines of the lines sent and not yet taken. */
  private readonly underway: number[] = [];
  linesTaken = 0;
  /** The program waits for a person behind what is underway. */
  private holds = false;
  /** What the program last put on the display. */
  private shown = "";
  private lifted = false;
  private readonly lineEndByte: number;
  /** How positions counted, and the feed, when it was lifted: on the way down the printer may still be on its way up. */
  private before: Told = freshState();
  private timer: ReturnType<typeof setInterval>;
  private readonly begunMs = Date.now();
  private readonly marks: JobMark[] = [];

  constructor(
    readonly id: number,
    private readonly about: {
      name: string;
      source: "trial" | "file";
      sourceId: number;
      printer: Printer;
      tool: number;
      trial?: PrintedTrial;
    },
    readonly program: JobProgram,
    private readonly session: LinkSession,
    private readonly ledger: Ledger,
    private readonly onChange: () => void,
    /** Writes down the piece that came of it. */
    private readonly onPiece: (piece: PrintedByJob) => void = () => undefined,
  ) {
    this.lineEndByte = lineEndByteOf(program.bytes);
    this.timer = setInterval(() => this.keep(), KEEP_EVERY_MS);
  }

  get heightMm(): number {
    // The column holds single precision: 0.2 comes out as 0.20000000298.
    return roundTo(this.program.heightMm[this.line] ?? 0, 3);
  }

  /** The trial as it is printed; null for a file. */
  get trial(): PrintedTrial | null {
    return this.about.trial ?? null;
  }

  get running(): boolean {
    return this.state === "running" || this.state === "paused";
  }

  next(): string | null {
    if (this.state !== "running" || this.holds) return null;
    const { bytes } = this.program;
    while (this.at < bytes.length) {
      const { text, next } = commandAt(bytes, this.at, this.lineEndByte);
      const line = this.linesSent++;
      this.at = next;
      if (text === "") continue;
      this.underway.push(line);
      this.shown = saysOnDisplay.exec(text)?.[1] ?? this.shown;
      this.holds = waitsForPerson.test(text);
      return this.holds ? WHEN_STILL : text;
    }
    if (this.underway.length === 0) this.end("done", "");
    return null;
  }

  onTaken(): void {
    if (this.underway.length === 0) return;
    this.line = this.underway.shift()!;
    this.linesTaken++;
    if (this.holds && this.underway.length === 0) this.waitForPerson();
    else if (this.at >= this.program.bytes.length && this.underway.length === 0) this.end("done", "");
  }

  /** The program's own stop: nothing is sent until somebody goes on. */
  private waitForPerson(): void {
    this.holds = false;
    this.state = "paused";
    this.why = this.shown === "" ? "The program waits until you go on." : `The program waits: ${this.shown}.`;
    this.keep();
    this.onChange();
  }

  onBroken(why: string): void {
    if (this.running) this.end("broken", why);
  }

  /** The nozzle's temperature as it was just reported. */
  measure(nozzleC: number): void {
    if (!this.running || this.heightMm <= 0) return;
    const last = this.samples.at(-1);
    if (last && this.heightMm - last.heightMm < SAMPLE_EVERY_MM) return;
    this.samples.push({ heightMm: this.heightMm, nozzleC });
  }

  /** Stops sending; what the printer has already goes on, then the nozzle is lifted off the piece. */
  async pause(): Promise<void> {
    if (this.state !== "running") return;
    this.state = "paused";
    // Only when the last move is done is it known how positions and filament are counted.
    const still = this.heightMm > 0 ? this.say(["G4 P1"]) : null;
    this.keep();
    this.onChange();
    if (!still) return;
    await still;
    if (this.state !== "paused") return;
    this.lifted = true;
    this.before = structuredClone(this.session.told);
    await this.say(inMillimetres(this.before, [...liftLines, ...modeLines(this.before)]));
  }

  async resume(): Promise<void> {
    if (this.state !== "paused") return;
    if (this.lifted) {
      this.lifted = false;
      const { feedMmMin } = this.before;
      await this.say(
        inMillimetres(this.before, [...lowerLines, ...modeLines(this.before), `G1 F${Math.round(feedMmMin)}`]),
      );
    }
    this.state = "running";
    this.why = "";
    this.session.wake();
    this.keep();
    this.onChange();
  }

  /** Ends it for good: heaters and fan off, nozzle off the piece and out of the way, motors off. */
  async cancel(): Promise<void> {
    if (!this.running) return;
    const printing = this.heightMm > 0;
    this.state = "cancelled";
    this.why = "Cancelled by hand.";
    this.session.endStream();
    // A printer that waits for heat hears this at once, if it can. Its `ok` would confuse any other line.
    if (this.session.waitsFor === "heat") this.session.sendNow("M108", "job");
    const { printer } = this.about;
    const tools = Array.from({ length: printer.tools }, (_, tool) => tool);
    const fans = tools.flatMap((tool) => {
      const said = settingFor("fan").say(0, printer, tool);
      return said.ok ? said.value : [];
    });
    const heatOff = tools.map((tool) => `M104 S0${printer.tools > 1 ? ` T${tool}` : ""}`);
    const off = this.say([...heatOff, "M140 S0", ...new Set(fans)], CANCEL_WITHIN_MS);
    this.close();
    await off;
    // Only now it is known what the printer had taken: lines that were under way have their answers.
    await this.say(
      [
        ...this.putBackLines(),
        // It ends here: what it is left counting in does not matter, what it understands now does.
        ...(this.session.told.unitMm === 1 ? [] : ["G21"]),
        ...(printing && !this.lifted ? liftLines : []),
        "G90",
        ...(printing ? ["G28 X Y"] : []),
        "M84",
      ],
      CANCEL_WITHIN_MS,
    );
  }

  /** What the job has set of the firmware's values, as the printer's record has them. */
  private putBackLines(): string[] {
    const { printer } = this.about;
    const { feedsPerMinute } = dialects[printer.dialect];
    return this.session.setBy.since("job", this.begunMs).flatMap((id) => {
      const [found, field] = [valueFor(id), recordFieldOf(id)];
      const own = field && printer[field];
      if (!found || typeof own !== "number") return [];
      return [valueLine(found.definition, found.tool, own, feedsPerMinute, printer.tools)];
    });
  }

  /** Changes a setting by hand, now; recorded at the present height. */
  nudge(setting: SettingKey, value: number): void {
    if (!this.running) throw new Refused("conflict", "No job is running on this printer.");
    if (this.marks.length >= MOST_MARKS) {
      throw new Refused(
        "conflict",
        `This job was changed by hand ${MOST_MARKS} times; that is as much as is kept of one.`,
      );
    }
    const { label, unit, lowest, highest } = settingFor(setting);
    if (!nudgeable.includes(setting)) {
      throw new Refused("invalid", `${label} cannot be changed while a job runs.`, { field: "setting" });
    }
    const { printer, tool } = this.about;
    const most = setting === "nozzleTemperature" ? printer.highestNozzleC : highest;
    if (value < lowest || value > most) {
      throw new Refused("invalid", `${label} must be ${plainNumber(lowest)} to ${plainNumber(most)} ${unit}.`, {
        field: "value",
      });
    }
    const said = settingFor(setting).say(value, printer, tool);
    if (!said.ok) throw new Refused("invalid", said.message, { field: "setting" });
    for (const line of said.value.toReversed()) void this.session.exchange(line, "nudge", { first: true });
    const mark = { heightMm: this.heightMm, setting, value, madeAt: new Date().toISOString() };
    this.marks.push(mark);
    this.ledger.write(`mark ${this.id} ${this.marks.length}`, () => jobs.mark(this.id, mark));
    this.onChange();
  }

  status(): JobStatus {
    const { seconds, log, commands } = this.program;
    const total = seconds[seconds.length - 1];
    const layer = log.tops.findIndex((top) => top >= this.heightMm - 1e-4);
    return {
      id: this.id,
      name: this.about.name,
      source: this.about.source,
      sourceId: this.about.sourceId,
      state: this.state,
      linesTaken: this.linesTaken,
      totalLines: commands,
      heightMm: this.heightMm,
      topMm: log.tops.at(-1) ?? 0,
      layer: this.heightMm > 0 ? Math.max(0, layer) : -1,
      layers: log.tops.length,
      secondsLeft: this.running ? Math.max(0, total - seconds[this.line]) : 0,
      share: commands === 0 ? 0 : this.linesTaken / commands,
      why: this.why,
      marks: this.marks.length,
    };
  }

  listMarks(): readonly JobMark[] {
    return this.marks;
  }

  private end(state: JobState, why: string): void {
    if (!this.running) return;
    this.state = state;
    this.why = why;
    if (state === "done") this.session.endStream();
    this.close();
  }

  /** Writes down how it ended. */
  private close(): void {
    clearInterval(this.timer);
    const { id, why } = this;
    const progress = this.progress();
    this.ledger.write(`job ${id}`, () => jobs.end(id, progress, why));
    this.writePiece();
    log().info({ job: id, state: this.state, why, lines: this.linesTaken }, "a job has ended");
    this.onChange();
  }

  /** What was laid is a piece, whole or not. */
  private writePiece(): void {
    const { heightMm, state, id, samples } = this;
    if (heightMm <= 0) return;
    const piece: PrintedByJob = {
      jobId: id,
      reachedMm: state === "done" ? null : heightMm,
      samples: [...samples],
      byHand: this.marks.map(({ heightMm: at, setting, value }) => ({ heightMm: at, setting, value })),
    };
    this.ledger.write(`piece ${id}`, () => this.onPiece(piece));
  }

  private progress(): JobProgress {
    return {
      state: this.state,
      linesTaken: this.linesTaken,
      heightMm: this.heightMm,
      told: structuredClone(this.session.told),
    };
  }

  private keep(): void {
    if (!this.running) return;
    const { id } = this;
    const progress = this.progress();
    this.ledger.write(`job ${id}`, () => jobs.progress(id, progress));
  }

  private async say(lines: string[], withinMs?: number): Promise<void> {
    await Promise.all(lines.map((line) => this.session.exchange(line, "job", { withinMs })));
  }
}
