/**
 * The talk with one printer: one line out, wait for `ok`. Here are the bytes, the timers and the queue; what may happen to a link is
 * `core/link/life`, what numbered lines mean `core/link/window`, how long a line is waited for `core/link/patience`.
 * Numbered lines can be asked for again; lines that were typed are never sent twice. Nothing is sent that nobody asked for.
 */
import { KnownState } from "@/core/firmware/danger";
import { readAnswer } from "@/core/firmware/reports/answer";
import { readTemperatures, TemperatureReport } from "@/core/firmware/reports/temperatures";
import { numberedLine } from "@/core/gcode/checksum";
import { follow } from "@/core/gcode/follow";
import { readBlank } from "@/core/link/blank";
import { canSend, closedLife, Life, lifeAfter, LifeEvent } from "@/core/link/life";
import { heatIsLife, MovesAhead, Patience, patienceFor, textIsLife } from "@/core/link/patience";
import type { Direction, Source } from "@/core/link/state";
import { SetBy } from "@/core/link/set-by";
import * as numbers from "@/core/link/window";
import { Reading, usualReading } from "@/core/machine/reading";
import { freshState, isHomed, Told } from "@/core/machine/state";
import { Refused } from "../refused";
import { LineCutter } from "./bytes";
import { Inbox } from "./inbox";
import { SessionTimes, usualTimes } from "./session-times";
import { Transport } from "./transports/transport";

/** What became of a line. */
export type Outcome = "taken" | "not sent" | "no answer";

export interface Exchange {
  outcome: Outcome;
  /** Lines that came back before `ok`, and `ok` itself if it says more. */
  answers: string[];
}

export interface Asking {
  /** In front of everything that waits. */
  first?: boolean;
  /** Gives up so long after the line's own patience, and goes on; without it a person decides. */
  withinMs?: number;
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

/** A numbered line is sent so often before the printer counts as gone. */
const MOST_SILENCES = 5;
/** Lines that may wait at a printer. */
export const MOST_QUEUED = 4000;
/** Lines remembered as never sent; of more, only how many there were. */
const MOST_UNSENT = 200;
/** Answers kept for one line. */
const MOST_ANSWERS = 2000;

/** Errors after which a printer takes nothing more. Common practice, no source. */
const stopsPrinter = /\b(emergency|halt(ed)?|kill(ed)?|runaway|shut ?down|stopped)\b/i;

interface Queued {
  id: number;
  text: string;
  source: Source;
  withinMs: number | null;
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
  patience: Patience;
}

const encoder = new TextEncoder();

export class LinkSession {
  /** No sign of life for the line in flight. */
  silent = false;
  busy = false;
  /** Lines that were never sent because the link was lost or the printer stopped: the last ones, and how many in all. */
  unsent: string[] = [];
  unsentCount = 0;
  readonly told: Told = freshState();
  /** Whose line set each firmware value last. */
  readonly setBy: SetBy;
  nozzleC: number | null = null;
  /** How often the printer has started anew since the link was made. */
  restarts = 0;
  restartedAt: string | null = null;
  /** Counts up with every line taken, for looking at throughput. */
  linesTaken = 0;

  private life: Life = closedLife;
  private readonly queue: Queued[] = [];
  private current: InFlight | null = null;
  private stream: LineStream | null = null;
  private window = numbers.freshWindow;
  private readonly ahead = new MovesAhead();
  private silences = 0;
  /** It says so when it is busy: then its silence says something, too. */
  private tellsBusy = false;
  private asked: number | null = null;
  private askedSinceMs = 0;
  private nextId = 1;
  private readonly cutter = new LineCutter((line) => this.hear(line));
  private readonly inbox = new Inbox(
    (piece) => this.hearPiece(piece),
    () => this.watchPart(),
    () => this.note("The printer says more than can be heard; the rest is left out."),
  );
  /** `ok`s that no line waited for, one behind the other. */
  private strayOks = 0;
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
  ) {
    this.setBy = new SetBy(reading.feedsPerMinute);
  }

  get state(): Life["is"] {
    return this.life.is;
  }

  /** Why the link is gone. */
  get lostBecause(): string | null {
    return this.life.is === "lost" ? this.life.why : null;
  }

  /** The printer has said that it stopped; nothing is sent until it is reset. */
  get halted(): string | null {
    return this.life.is === "open" ? this.life.halted : null;
  }

  /** Opens the link behind `before`; sends nothing. Closed meanwhile, it rejects and leaves nothing open. */
  async open(before?: () => Promise<void>): Promise<void> {
    this.live({ type: "open" });
    try {
      await before?.();
      await this.transport.open({
        onBytes: (bytes) => {
          if (this.state === "open") this.inbox.push(bytes);
        },
        onLost: (reason) => this.lose(reason),
      });
    } catch (error) {
      this.live({ type: "close" });
      throw error;
    }
    this.live({ type: "opened" });
    if (this.state !== "open") {
      await this.transport.close();
      throw new Error("The link was closed before it was open.");
    }
    this.note(`Linked: ${this.transport.label}. Nothing was sent.`);
    this.hooks.onChange();
  }

  async close(): Promise<void> {
    const wasOpen = this.state === "open";
    this.live({ type: "close" });
    if (wasOpen) this.breakOff("The link was closed.");
    await this.transport.close();
    if (wasOpen) this.note("The link was closed.");
    this.hooks.onChange();
  }

  get queued(): { id: number; text: string; source: Source }[] {
    return this.queue.map(({ id, text, source }) => ({ id, text, source }));
  }

  /** Whether the printer has said more than was heard so far. */
  get hasUnheard(): boolean {
    return this.inbox.isBusy;
  }

  /** The line that waits for its `ok`. */
  get inFlight(): string | null {
    return this.current?.text ?? null;
  }

  /** What that line waits for. */
  get waitsFor(): Patience["waits"] {
    return this.current?.patience.waits ?? null;
  }

  get known(): KnownState {
    return { homed: isHomed(this.told) ? true : null, nozzleC: this.nozzleC };
  }

  /**
   * Puts a line into the queue; settles when its `ok` came or it is clear that none will. A line without a command is not sent at all:
   * some printers give it no answer. Refused if too many wait already.
   */
  exchange(text: string, source: Source, { first = false, withinMs }: Asking = {}): Promise<Exchange> {
    const bare = text.replace(/[\r\n]+/g, " ");
    if (readBlank(bare)) {
      this.note(`Not sent, there is no command in it: “${bare.slice(0, 80)}”.`);
      return Promise.resolve({ outcome: "not sent", answers: [] });
    }
    if (this.queue.length >= MOST_QUEUED) {
      throw new Refused(
        "busy",
        `${MOST_QUEUED} lines wait at this printer already. Let it catch up, or clear the queue.`,
      );
    }
    return new Promise((settle) => {
      if (!canSend(this.life)) {
        this.forgo([bare]);
        settle({ outcome: "not sent", answers: [] });
        return;
      }
      const queued = { id: this.nextId++, text: bare, source, withinMs: withinMs ?? null, answers: [], settle };
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

  forgetUnsent(): void {
    this.unsent = [];
    this.unsentCount = 0;
    this.hooks.onChange();
  }

  /** Everything off, at once: past the queue, past the line in flight. */
  emergencyStop(): void {
    if (this.state !== "open") return;
    this.write("M112", "stop");
    this.live({ type: "halt", why: "Emergency stop." });
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
    this.window = numbers.freshWindow;
    this.silences = 0;
    this.pump();
  }

  /** Stops sending it; lines already taken stay taken. A line of it that is never answered is passed by. */
  endStream(): void {
    if (!this.stream) return;
    this.stream = null;
    if (this.current?.number === null || this.current === null) return;
    this.sign();
    this.watchSilence();
  }

  /** Looks for a next line, after a pause of the stream. */
  wake(): void {
    this.pump();
  }

  private live(event: LifeEvent): void {
    this.life = lifeAfter(this.life, event);
  }

  private pump(): void {
    if (this.current || !canSend(this.life) || this.asked !== null) return;
    const queued = this.queue.shift();
    if (queued) return this.dispatch({ text: queued.text, source: queued.source, queued, number: null });
    if (!this.stream) return;
    let line = numbers.lineDue(this.window);
    if (line === null) {
      const text = this.stream.next();
      if (text === null) return;
      line = numbers.numbered(this.window, text);
    }
    this.window = numbers.withSent(this.window, line);
    this.dispatch({ ...line, source: "job", queued: null });
  }

  private dispatch(line: Omit<InFlight, "patience">): void {
    this.strayOks = 0;
    const patience = patienceFor(line.text, this.told);
    this.current = { ...line, patience };
    this.ahead.add(patience.moveS);
    this.speak();
    this.silent = false;
  }

  /** Sends the line in flight. */
  private speak(): void {
    const { text, number, source } = this.current!;
    this.sign();
    if (!this.silenceTimer) this.watchSilence();
    this.write(number === null ? text : numberedLine(number, text), source);
  }

  private write(text: string, source: Source): void {
    this.transport.write(encoder.encode(`${text}\n`));
    this.hooks.onEvent("out", source, text);
  }

  private hearPiece(piece: Uint8Array): boolean {
    if (this.state === "open") this.cutter.push(piece);
    return this.state === "open";
  }

  /** A line that has begun is waited for, and then taken as it is. */
  private watchPart(): void {
    if (this.partTimer) clearTimeout(this.partTimer);
    this.partTimer = this.cutter.holdsPart ? setTimeout(() => this.cutter.flush(), this.times.partMs) : null;
    this.partTimer?.unref();
  }

  private hear(line: string): void {
    if (this.state !== "open") return;
    this.hooks.onEvent("in", this.current?.source ?? "console", line);
    const patience = this.current?.patience;
    const temperatures = readTemperatures(line);
    if (temperatures) {
      this.nozzleC =
        temperatures.nozzles[this.told.tool]?.measuredC ?? temperatures.nozzles[0]?.measuredC ?? this.nozzleC;
      this.hooks.onTemperatures(temperatures);
    }
    const answer = readAnswer(line);
    // Bytes alone are no sign of life: temperatures may come by themselves while an `ok` is lost.
    const chatter = answer.kind === "other";
    if (!chatter || (patience && (temperatures ? heatIsLife(patience) : textIsLife(patience)))) this.showLife();
    switch (answer.kind) {
      case "ok":
        if (this.asked !== null) return;
        if (!this.current) return this.strayOk();
        if (line.trim().toLowerCase() !== "ok") this.keepAnswer(line);
        return this.finish("taken");
      case "busy":
        this.tellsBusy = true;
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
        this.keepAnswer(line);
        if (stopsPrinter.test(line)) this.stopped(line.trim());
        return;
      case "other":
        this.keepAnswer(line);
    }
  }

  /** One is said; of a storm, only how far it went. */
  private strayOk(): void {
    this.strayOks++;
    if (this.strayOks === 1) return this.note("An “ok” that no line waited for.");
    if (Math.log10(this.strayOks) % 1 === 0) this.note(`“ok” came ${this.strayOks} times and no line waited for it.`);
  }

  private keepAnswer(line: string): void {
    const answers = this.current?.queued?.answers;
    if (answers && answers.length < MOST_ANSWERS) answers.push(line);
  }

  private showLife(): void {
    this.sign();
    if (!this.silent) return;
    this.silent = false;
    this.hooks.onChange();
  }

  private finish(outcome: Outcome): void {
    const done = this.current!;
    this.current = null;
    this.silences = 0;
    if (this.busy || this.silent) {
      this.busy = this.silent = false;
      this.hooks.onChange();
    }
    if (outcome === "taken") {
      this.linesTaken++;
      follow(this.told, done.text, this.reading);
      this.setBy.hear(done.text, done.source, Date.now());
    }
    if (done.queued) {
      if (this.stream && /^\s*M110\b/i.test(done.text)) this.window = numbers.withForeignCount(this.window);
      done.queued.settle({ outcome, answers: done.queued.answers });
      this.hooks.onChange();
    } else if (outcome === "taken") this.advance(numbers.withTaken(this.window));
    this.pump();
  }

  /** The window as it is now, and lines of the stream that count as taken. */
  private advance({ window, lines }: { window: numbers.LineWindow; lines: string[] }): void {
    this.window = window;
    for (const text of lines) this.stream?.onTaken(text);
  }

  /** The printer wants line `number` again. What else it says at once belongs to it; then it is quiet, and we go on from there. */
  private askedAgain(number: number): void {
    const isNumbered = this.current ? this.current.number !== null : this.stream !== null;
    if (!isNumbered) return this.note(`The printer asks for line ${number} again, but none was numbered.`);
    const now = Date.now();
    if (this.asked === null) this.askedSinceMs = now;
    this.asked = number;
    if (this.quietTimer) clearTimeout(this.quietTimer);
    const left = this.askedSinceMs + this.times.longestQuietMs - now;
    this.quietTimer = setTimeout(() => this.answerAsked(), Math.max(0, Math.min(this.times.quietMs, left)));
    this.quietTimer.unref();
  }

  private answerAsked(): void {
    this.quietTimer = null;
    const number = this.asked;
    this.asked = null;
    if (number === null || this.state !== "open") return;
    this.current = null;
    if (this.stream) {
      const answer = numbers.withAsked(this.window, number);
      if ("broken" in answer) return this.breakStream(answer.broken);
      if (answer.lines.length > 0) this.silences = 0;
      this.advance(answer);
    }
    // Without a stream it was ended meanwhile: its last line is of no use any more.
    this.pump();
  }

  private breakStream(why: string): void {
    const { stream } = this;
    this.stream = null;
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
    this.restartedAt = new Date().toISOString();
    this.live({ type: "restart" });
    this.setBy.forget();
    this.nozzleC = null;
    Object.assign(this.told, freshState());
    this.note("The printer has started anew: nothing is homed, heaters are off.");
    if (wasTalking || this.queue.length > 0) this.breakOff("The printer has started anew.");
    this.hooks.onChange();
  }

  private stopped(why: string): void {
    this.live({ type: "halt", why });
    Object.assign(this.told, freshState());
    this.breakOff(why);
    this.hooks.onChange();
  }

  private lose(reason: string): void {
    if (this.state !== "open") return;
    this.live({ type: "lose", why: reason });
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
    this.stream = null;
    this.ahead.forget();
    current?.queued?.settle({ outcome: "no answer", answers: current.queued.answers });
    this.giveUpQueue();
    stream?.onBroken(why);
  }

  private giveUpQueue(): void {
    const given = this.queue.splice(0);
    // A question for temperatures is nobody's work.
    this.forgo(given.filter(({ source }) => source !== "watch").map(({ text }) => text));
    for (const queued of given) queued.settle({ outcome: "not sent", answers: [] });
    if (this.unsentCount > 0) this.note(`Not sent: ${this.unsentCount} ${this.unsentCount === 1 ? "line" : "lines"}.`);
  }

  private forgo(lines: string[]): void {
    this.unsentCount += lines.length;
    this.unsent = [...this.unsent, ...lines].slice(-MOST_UNSENT);
  }

  private note(text: string): void {
    this.hooks.onEvent("note", "console", text);
  }

  private sign(): void {
    this.lastSignMs = Date.now();
  }

  /** How long the line in flight may be silent. */
  private waitMs({ number, queued, patience }: InFlight): number {
    if (number !== null && !this.stream) return this.times.endedSilenceMs;
    const usual = number !== null ? this.times.numberedSilenceMs : (queued?.withinMs ?? this.times.silenceMs);
    return usual + 1000 * (this.ahead.slowestS() + (this.tellsBusy ? 0 : patience.extraS));
  }

  private watchSilence(): void {
    if (this.silenceTimer) clearTimeout(this.silenceTimer);
    this.silenceTimer = null;
    if (!this.current) return;
    const left = this.lastSignMs + this.waitMs(this.current) - Date.now();
    // A line in between may need less patience than this one: it is looked again soon enough.
    this.silenceTimer = setTimeout(() => this.lookAtSilence(), Math.max(5, Math.min(left, this.times.endedSilenceMs)));
    this.silenceTimer.unref();
  }

  private lookAtSilence(): void {
    this.silenceTimer = null;
    const { current } = this;
    if (!current || this.state !== "open") return;
    const wait = this.waitMs(current);
    if (Date.now() - this.lastSignMs < wait || this.silent) return this.watchSilence();
    if (current.number !== null) {
      if (!this.stream) {
        this.note(`Line ${current.number} was never answered; went on without it.`);
        return this.finish("no answer");
      }
      if (++this.silences > MOST_SILENCES) return this.breakStream("The printer does not answer.");
      this.note(`No answer to line ${current.number}; it is sent again, the printer knows whether it had it.`);
      return this.speak();
    }
    if (current.source === "watch" || current.queued?.withinMs != null) {
      if (current.source !== "watch") this.note(`No answer to “${current.text}”; went on without it.`);
      return this.finish("no answer");
    }
    this.silent = true;
    this.note(`No answer to “${current.text}” for ${Math.round(wait / 1000)} s.`);
    this.hooks.onChange();
    this.watchSilence();
  }
}
