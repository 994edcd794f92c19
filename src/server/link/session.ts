/**
 * The talk with one printer: one line out, wait for `ok`. Numbered lines of a stream can be asked for again and are then sent
 * again from there; lines that were typed are never sent twice. Nothing is sent that nobody asked for.
 */
import { KnownState } from "@/core/firmware/danger";
import { readAnswer } from "@/core/firmware/reports/answer";
import { readTemperatures, TemperatureReport } from "@/core/firmware/reports/temperatures";
import { follow } from "@/core/gcode/follow";
import { numberedLine } from "@/core/gcode/checksum";
import { Reading, usualReading } from "@/core/machine/reading";
import { freshState, isHomed, Told } from "@/core/machine/state";
import type { Direction, Source } from "@/core/link/state";
import { LineCutter } from "./bytes";
import { Transport } from "./transports/transport";

export type SessionState = "closed" | "open" | "lost";

/** What became of a line. */
export type Outcome = "taken" | "not sent" | "no answer";

export interface Exchange {
  outcome: Outcome;
  /** Lines that came back before `ok`, and `ok` itself if it says more. */
  answers: string[];
}

/** Lines that are sent with number and checksum, one after the other. */
export interface LineStream {
  /** The next line, or null if there is none just now. */
  next(): string | null;
  /** The printer has taken the line. */
  onTaken(text: string): void;
  /** The talk cannot go on. */
  onBroken(why: string): void;
}

export interface SessionHooks {
  onEvent(direction: Direction, source: Source, text: string): void;
  onTemperatures(report: TemperatureReport): void;
  /** State, queue or waiting changed. */
  onChange(): void;
}

export interface SessionTimes {
  /** Without a sign of life for so long, a typed line counts as unanswered. */
  silenceMs: number;
  /** … and a numbered line is sent again: the printer knows whether it had it. */
  numberedSilenceMs: number;
  /** After `Resend` the line must be quiet for so long. */
  quietMs: number;
  /** A line that began and did not end is taken as it is after so long. */
  partMs: number;
}

export const usualTimes: SessionTimes = { silenceMs: 10_000, numberedSilenceMs: 6000, quietMs: 60, partMs: 700 };

/** Numbered lines that can be asked for again. */
const KEPT_LINES = 64;
/** A stream that is asked so often for lines it has sent already will not get through. */
const MOST_RESENDS = 25;

/** Errors after which a printer takes nothing more. Common practice, no source. */
const stopsPrinter = /\b(emergency|halt(ed)?|kill(ed)?|runaway|shut ?down|stopped)\b/i;

interface Queued {
  id: number;
  text: string;
  source: Source;
  answers: string[];
  settle(exchange: Exchange): void;
}

interface InFlight {
  /** Without the line end. */
  text: string;
  source: Source;
  /** Null for a numbered line. */
  queued: Queued | null;
  number: number | null;
}

export class LinkSession {
  state: SessionState = "closed";
  /** Why the link is gone. */
  lostBecause: string | null = null;
  /** The printer has said that it stopped; nothing is sent until it is reset. */
  halted: string | null = null;
  /** No sign of life for the line in flight. */
  silent = false;
  busy = false;
  /** Lines that were never sent because the link was lost or the printer stopped. */
  unsent: string[] = [];
  readonly told: Told = freshState();
  nozzleC: number | null = null;
  /** How often the printer has started anew since the link was made. */
  restarts = 0;
  /** Counts up with every line sent, for looking at throughput. */
  linesTaken = 0;

  private readonly queue: Queued[] = [];
  private current: InFlight | null = null;
  private stream: LineStream | null = null;
  private nextNumber = 1;
  private readonly numbered = new Map<number, string>();
  /** Numbered lines to be sent again, from this number on; null if none. */
  private replayFrom: number | null = null;
  private resends = 0;
  private silences = 0;
  private lastTaken = -1;
  private asked: number | null = null;
  private nextId = 1;
  private readonly cutter = new LineCutter((line) => this.hear(line));
  private silenceTimer: ReturnType<typeof setTimeout> | null = null;
  private quietTimer: ReturnType<typeof setTimeout> | null = null;
  private partTimer: ReturnType<typeof setTimeout> | null = null;
  private lastSignMs = 0;

  constructor(
    readonly transport: Transport,
    private readonly hooks: SessionHooks,
    private readonly times: SessionTimes = usualTimes,
    /** How the printer understands what it is told. */
    private readonly reading: Reading = usualReading,
  ) {}

  /** Opens the link; sends nothing. */
  async open(): Promise<void> {
    await this.transport.open({
      onBytes: (bytes) => this.take(bytes),
      onLost: (reason) => this.lose(reason),
    });
    this.state = "open";
    this.lostBecause = null;
    this.note(`Linked: ${this.transport.label}. Nothing was sent.`);
    this.hooks.onChange();
  }

  async close(): Promise<void> {
    if (this.state !== "open") return;
    this.state = "closed";
    this.breakOff("The link was closed.");
    await this.transport.close();
    this.note("The link was closed.");
    this.hooks.onChange();
  }

  get queued(): { id: number; text: string; source: Source }[] {
    return this.queue.map(({ id, text, source }) => ({ id, text, source }));
  }

  /** The line that waits for its `ok`. */
  get inFlight(): string | null {
    return this.current?.text ?? null;
  }

  get known(): KnownState {
    return { homed: isHomed(this.told) ? true : null, nozzleC: this.nozzleC };
  }

  /** Puts a line at the end of the queue; settles when its `ok` came or it is clear that none will. `first` puts it in front. */
  exchange(text: string, source: Source, first = false): Promise<Exchange> {
    return new Promise((settle) => {
      const bare = text.replace(/[\r\n]+/g, " ");
      if (this.state !== "open" || this.halted !== null) {
        this.unsent.push(bare);
        settle({ outcome: "not sent", answers: [] });
        return;
      }
      const queued = { id: this.nextId++, text: bare, source, answers: [], settle };
      if (first) this.queue.unshift(queued);
      else this.queue.push(queued);
      this.pump();
      this.hooks.onChange();
    });
  }

  /** Whether a line of this source waits or is in flight. */
  has(source: Source): boolean {
    return this.current?.source === source || this.queue.some((queued) => queued.source === source);
  }

  /** Throws away what was not sent yet. */
  clearQueue(): void {
    this.giveUpQueue();
    this.hooks.onChange();
  }

  /** Everything off, at once: past the queue, past the line in flight. */
  emergencyStop(): void {
    if (this.state !== "open") return;
    this.write("M112", "stop");
    this.halted = "Emergency stop.";
    this.breakOff("Emergency stop.");
    Object.assign(this.told, freshState());
    this.hooks.onChange();
  }

  /** Sends a line past the queue that the printer hears while it is busy (M108, M410). */
  sendNow(text: string, source: Source): void {
    if (this.state === "open") this.write(text, source);
  }

  /** The line in flight gets no answer: go on as though it had. */
  goOn(): void {
    if (!this.current || this.current.number !== null) return;
    this.note(`Went on without an answer to “${this.current.text}”.`);
    this.finish("no answer");
  }

  /** Starts sending a stream; the printer's line counter starts at 1. */
  start(stream: LineStream): void {
    this.stream = stream;
    this.nextNumber = 0;
    this.numbered.clear();
    this.replayFrom = null;
    this.resends = this.silences = 0;
    this.lastTaken = -1;
    this.pump();
  }

  /** Stops sending it; lines already taken stay taken. */
  endStream(): void {
    this.stream = null;
    this.replayFrom = null;
  }

  /** Looks for a next line, after a pause of the stream. */
  wake(): void {
    this.pump();
  }

  private pump(): void {
    if (this.current || this.state !== "open" || this.halted !== null || this.asked !== null) return;
    const queued = this.queue.shift();
    if (queued) {
      this.current = { text: queued.text, source: queued.source, queued, number: null };
      return this.dispatch();
    }
    if (!this.stream) return;
    if (this.replayFrom !== null) {
      const text = this.numbered.get(this.replayFrom);
      if (text !== undefined) {
        this.current = { text, source: "job", queued: null, number: this.replayFrom };
        return this.dispatch();
      }
      this.replayFrom = null;
    }
    // The first line of a stream sets the printer's counter.
    const text = this.nextNumber === 0 ? "M110 N0" : this.stream.next();
    if (text === null) return;
    const number = this.nextNumber++;
    this.numbered.set(number, text);
    this.numbered.delete(number - KEPT_LINES);
    this.current = { text, source: "job", queued: null, number };
    this.dispatch();
  }

  private dispatch(): void {
    const { text, number, source } = this.current!;
    this.write(number === null ? text : numberedLine(number, text), source);
    this.silent = false;
    this.sign();
    if (!this.silenceTimer) this.watchSilence();
  }

  private write(text: string, source: Source): void {
    this.hooks.onEvent("out", source, text);
    this.transport.write(new TextEncoder().encode(`${text}\n`));
  }

  private take(bytes: Uint8Array): void {
    if (this.state !== "open") return;
    this.cutter.push(bytes);
    if (this.partTimer) clearTimeout(this.partTimer);
    this.partTimer = this.cutter.holdsPart ? setTimeout(() => this.cutter.flush(), this.times.partMs) : null;
    this.partTimer?.unref();
  }

  private hear(line: string): void {
    if (this.state !== "open") return;
    this.hooks.onEvent("in", this.current?.source ?? "console", line);
    this.sign();
    const temperatures = readTemperatures(line);
    if (temperatures) {
      this.nozzleC =
        temperatures.nozzles[this.told.tool]?.measuredC ?? temperatures.nozzles[0]?.measuredC ?? this.nozzleC;
      this.hooks.onTemperatures(temperatures);
    }
    const answer = readAnswer(line);
    if (this.silent) {
      this.silent = false;
      this.hooks.onChange();
    }
    switch (answer.kind) {
      case "ok":
        if (this.asked !== null) return;
        if (!this.current) return this.note("An “ok” that no line waited for.");
        if (line.trim().toLowerCase() !== "ok") this.current.queued?.answers.push(line);
        return this.finish("taken");
      case "busy":
        if (!this.busy) {
          this.busy = true;
          this.hooks.onChange();
        }
        return;
      case "resend":
        return this.askedAgain(answer.number!);
      case "started":
        return this.restarted();
      case "error":
        this.current?.queued?.answers.push(line);
        if (stopsPrinter.test(line)) this.stopped(line.trim());
        return;
      case "other":
        this.current?.queued?.answers.push(line);
    }
  }

  private finish(outcome: Outcome): void {
    const done = this.current!;
    this.current = null;
    this.silences = 0;
    if (this.busy) {
      this.busy = false;
      this.hooks.onChange();
    }
    if (outcome === "taken") {
      this.linesTaken++;
      follow(this.told, done.text, this.reading);
    }
    if (done.queued) {
      done.queued.settle({ outcome, answers: done.queued.answers });
      this.hooks.onChange();
    } else this.numberedTaken(done.number!);
    this.pump();
  }

  private numberedTaken(number: number): void {
    if (this.replayFrom !== null) this.replayFrom = this.numbered.has(number + 1) ? number + 1 : null;
    // A line that was sent again was handed out once, and counts once.
    const text = this.numbered.get(number);
    if (number > 0 && number > this.lastTaken && text !== undefined) {
      this.lastTaken = number;
      // A storm is one that gets nothing through.
      this.resends = 0;
      this.stream?.onTaken(text);
    }
    if (number === 0) this.lastTaken = 0;
  }

  /** The printer wants line `number` again. What else it says at once belongs to it; then it is quiet, and we go on from there. */
  private askedAgain(number: number): void {
    const numbered = this.current ? this.current.number !== null : this.stream !== null;
    if (!numbered) {
      return this.note(`The printer asks for line ${number} again, but none was numbered.`);
    }
    this.asked = number;
    if (this.quietTimer) clearTimeout(this.quietTimer);
    this.quietTimer = setTimeout(() => this.answerAsked(), this.times.quietMs);
    this.quietTimer.unref();
  }

  private answerAsked(): void {
    this.quietTimer = null;
    const number = this.asked;
    this.asked = null;
    if (number === null || this.state !== "open") return;
    if (!this.stream) {
      // The stream was ended meanwhile: its last line is of no use any more.
      this.current = null;
      return this.pump();
    }
    const sent = this.nextNumber - 1;
    if (++this.resends > MOST_RESENDS) return this.breakStream("The printer asks for the same lines again and again.");
    if (number > sent + 1 || (number <= sent && !this.numbered.has(number))) {
      return this.breakStream(`The printer asks for line ${number}, which was not among the last ones sent.`);
    }
    const { current } = this;
    this.current = null;
    // What came before the line it asks for was taken.
    for (let taken = this.lastTaken + 1; taken < number; taken++) this.numberedTaken(taken);
    if (current) this.silences = 0;
    this.replayFrom = number <= sent ? number : null;
    this.pump();
  }

  private breakStream(why: string): void {
    const { stream } = this;
    this.endStream();
    this.current = null;
    this.note(why);
    stream?.onBroken(why);
    this.pump();
    this.hooks.onChange();
  }

  /** The printer has started anew: what it was told is forgotten, what waits is not sent. */
  private restarted(): void {
    const wasTalking = this.current !== null || this.stream !== null;
    this.restarts++;
    this.halted = null;
    Object.assign(this.told, freshState());
    this.note("The printer has started anew: nothing is homed, heaters are off.");
    if (wasTalking || this.queue.length > 0) this.breakOff("The printer has started anew.");
    this.hooks.onChange();
  }

  private stopped(why: string): void {
    this.halted = why;
    Object.assign(this.told, freshState());
    this.breakOff(why);
    this.hooks.onChange();
  }

  private lose(reason: string): void {
    if (this.state !== "open") return;
    this.state = "lost";
    this.lostBecause = reason;
    // Nobody can say whether the line in flight was taken; it was told, and what was told is what may be hot.
    if (this.current) follow(this.told, this.current.text, this.reading);
    this.note(`The link is lost: ${reason}`);
    this.breakOff("The link was lost.");
    this.hooks.onChange();
  }

  private breakOff(why: string): void {
    for (const timer of [this.silenceTimer, this.quietTimer, this.partTimer]) if (timer) clearTimeout(timer);
    this.silenceTimer = this.quietTimer = this.partTimer = null;
    const { current, stream } = this;
    this.current = null;
    this.asked = null;
    this.busy = this.silent = false;
    this.endStream();
    current?.queued?.settle({ outcome: "no answer", answers: current.queued.answers });
    this.giveUpQueue();
    stream?.onBroken(why);
  }

  private giveUpQueue(): void {
    for (const queued of this.queue.splice(0)) {
      // A question for temperatures is nobody's work.
      if (queued.source !== "watch") this.unsent.push(queued.text);
      queued.settle({ outcome: "not sent", answers: [] });
    }
    if (this.unsent.length > 0)
      this.note(`Not sent: ${this.unsent.length} ${this.unsent.length === 1 ? "line" : "lines"}.`);
  }

  private note(text: string): void {
    this.hooks.onEvent("note", "console", text);
  }

  private sign(): void {
    this.lastSignMs = Date.now();
  }

  private watchSilence(): void {
    const wait = this.current?.number === null ? this.times.silenceMs : this.times.numberedSilenceMs;
    const left = this.lastSignMs + wait - Date.now();
    this.silenceTimer = setTimeout(() => this.lookAtSilence(), Math.max(5, left));
    this.silenceTimer.unref();
  }

  private lookAtSilence(): void {
    this.silenceTimer = null;
    const { current } = this;
    if (!current || this.state !== "open") return;
    const wait = current.number === null ? this.times.silenceMs : this.times.numberedSilenceMs;
    if (Date.now() - this.lastSignMs < wait) return this.watchSilence();
    if (current.number !== null) {
      if (++this.silences > 5) return this.breakStream("The printer does not answer.");
      this.note(`No answer to line ${current.number}; it is sent again, the printer knows whether it had it.`);
      return this.dispatch();
    }
    if (current.source === "watch") return this.finish("no answer");
    this.silent = true;
    this.note(`No answer to “${current.text}” for ${Math.round(wait / 1000)} s.`);
    this.hooks.onChange();
  }
}
