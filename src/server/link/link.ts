/** Everything about one linked printer: the talk, the temperatures, the job. */
import { TemperatureReport } from "@/core/firmware/reports/temperatures";
import { readingOf } from "@/core/machine/reading";
import type { HeatSample, LinkStatus, Preparing, PrintedTrial } from "@/core/link/state";
import { SavedPrinter } from "../db/printers";
import type { JobProgram } from "@/core/report/progress";
import { jobs } from "../db/jobs";

import { Job } from "./job";
import { Journal } from "./journal";
import { Ledger } from "./ledger";
import { LinkSession } from "./session";
import { usualTimes } from "./session-times";
import type { PrintedByJob } from "../work/runs";
import { Transport } from "./transports/transport";
import { Refused } from "../refused";

/** Temperatures are asked for this often in the printer's own time, while somebody looks or a job runs. */
const WATCH_EVERY_S = 2;
const WATCH_LEAST_MS = 100;
/** Samples kept for the chart: an hour at one a second. */
const KEPT_SAMPLES = 3600;

/** Heats older than this are asked for again when somebody looks at them. */
const OLD_HEAT_MS = 15_000;

const withoutStop = ({ stop: _, ...preparing }: Preparing & { stop: AbortController }): Preparing => preparing;

export class Link {
  readonly session: LinkSession;
  readonly samples: HeatSample[] = [];
  job: Job | null = null;
  /** What is being made ready, and what gives it up. */
  preparing: (Preparing & { stop: AbortController }) | null = null;
  /** When the last sample came, ms; what was measured before a restart is not known any more. */
  private heatAtMs = 0;
  private lookedAtMs = 0;
  private watchers = 0;
  private watchTimer: ReturnType<typeof setTimeout> | null = null;
  private sampleIndex = 0;
  private clockS = 0;
  private clockMs = performance.now();
  private readonly listeners = new Set<() => void>();

  constructor(
    public printer: SavedPrinter,
    readonly transport: Transport,
    private readonly journal: Journal,
    private readonly ledger: Ledger,
    /** What no other link may hold meanwhile: port or address. */
    readonly place: string | null,
    /** Reads the screen of a simulated printer. */
    private readonly readDisplay?: () => string,
  ) {
    this.session = new LinkSession(
      transport,
      {
        onEvent: (direction, source, text) => {
          const jobId = source === "job" ? (this.job?.id ?? null) : null;
          this.journal.add(this.printer.id, { atMs: Date.now(), direction, source, text }, jobId);
        },
        onTemperatures: (report) => this.measure(report),
        onChange: () => this.changed(),
      },
      usualTimes,
      readingOf(printer),
    );
  }

  /** Opens the way behind `before`; from the first moment on the link is opening. Rejects with a sentence. */
  async open(before: () => Promise<void>): Promise<void> {
    await this.session.open(before);
    this.changed();
  }

  async close(): Promise<void> {
    if (this.watchTimer) clearTimeout(this.watchTimer);
    this.watchTimer = null;
    await this.session.close();
    this.changed();
  }

  /** Calls `listener` whenever the status changes; returns what ends that. */
  listen(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** Asks for temperatures until what it returns is called. */
  watch(): () => void {
    this.watchers++;
    this.watchSoon();
    this.changed();
    let ended = false;
    return () => {
      if (ended) return;
      ended = true;
      this.watchers--;
      this.changed();
    };
  }

  status(): LinkStatus {
    const { session } = this;
    const { queued } = session;
    return {
      printerId: this.printer.id,
      state: session.state,
      transport: this.transport.label,
      rate: this.transport.rate,
      simulated: this.readDisplay !== undefined,
      lostBecause: session.lostBecause,
      halted: session.halted,
      inFlight: session.inFlight,
      silent: session.silent,
      busy: session.busy,
      queue: queued.slice(0, 30),
      queueLength: queued.length,
      unsent: session.unsent.slice(-30),
      unsentCount: session.unsentCount,
      restartedAt: session.restartedAt,
      homed: session.known.homed,
      nozzleC: session.nozzleC,
      heat: this.heat,
      heatAgeS: this.heat ? (Date.now() - this.heatAtMs) / 1000 : null,
      display: this.readDisplay?.() ?? null,
      watching: this.isWatched,
      job: this.job?.status() ?? null,
      preparing: this.preparing && withoutStop(this.preparing),
      unwritten: this.ledger.trouble ?? this.journal.ledger.trouble,
    };
  }

  /** Starts sending a program; a 409 if another one is under way. */
  begin(
    program: JobProgram,
    about: { name: string; source: "trial" | "file"; sourceId: number; tool: number; trial?: PrintedTrial },
    onPiece?: (piece: PrintedByJob) => void,
  ): Job {
    const { session, printer } = this;
    if (session.state !== "open") throw new Refused("conflict", `${printer.name} is not linked. Link it first.`);
    if (session.halted)
      throw new Refused("conflict", `${printer.name} has stopped: ${session.halted} Switch it off and on first.`);
    if (this.job?.running)
      throw new Refused("conflict", `“${this.job.status().name}” is still running on ${printer.name}.`);
    const { name, source, sourceId } = about;
    const id = jobs.begin({ printerId: printer.id, source, sourceId, name, totalLines: program.commands });
    this.job = new Job(id, { ...about, printer }, program, session, this.ledger, () => this.changed(), onPiece);
    session.start(this.job);
    this.watchSoon();
    this.changed();
    return this.job;
  }

  changed(): void {
    for (const listener of this.listeners) listener();
  }

  private get heat(): HeatSample | null {
    const { restartedAt } = this.session;
    if (restartedAt !== null && Date.parse(restartedAt) > this.heatAtMs) return null;
    return this.samples.at(-1) ?? null;
  }

  /** Somebody looks at the heats: they are asked for once, if they are old and nobody asks for them anyway. */
  lookAtHeat(): void {
    const now = Date.now();
    const isKnown = this.heat !== null && now - this.heatAtMs < OLD_HEAT_MS;
    if (isKnown || this.isWatched || now - this.lookedAtMs < OLD_HEAT_MS) return;
    if (this.session.state !== "open" || this.session.halted || this.session.has("watch")) return;
    this.lookedAtMs = now;
    void this.session.exchange("M105", "watch", { first: true });
  }

  private get isWatched(): boolean {
    return (
      this.session.state === "open" &&
      (this.watchers > 0 || this.job?.state === "running" || this.job?.state === "paused")
    );
  }

  private watchSoon(): void {
    if (this.watchTimer || !this.isWatched) return;
    const ask = () => {
      this.watchTimer = null;
      if (!this.isWatched) return;
      if (!this.session.has("watch") && !this.session.halted)
        void this.session.exchange("M105", "watch", { first: true });
      this.watchTimer = setTimeout(ask, Math.max(WATCH_LEAST_MS, (WATCH_EVERY_S * 1000) / this.transport.rate));
    };
    this.watchTimer = setTimeout(ask, 0);
  }

  private measure(report: TemperatureReport): void {
    const now = performance.now();
    this.clockS += ((now - this.clockMs) / 1000) * this.transport.rate;
    this.clockMs = now;
    this.heatAtMs = Date.now();
    this.samples.push({ index: this.sampleIndex++, atS: this.clockS, ...report });
    if (this.samples.length > KEPT_SAMPLES) this.samples.splice(0, 400);
    const nozzle = report.nozzles[this.session.told.tool] ?? report.nozzles[0];
    if (nozzle) this.job?.measure(nozzle.measuredC);
    this.changed();
  }
}
