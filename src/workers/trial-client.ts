/** The page's end of the trial worker: one build at a time, the newest wins, a build that drags on is cancelled for a newer one. */
import type { TrialInput } from "@/core/trials/trial";
import type { LineMeaning, TrialAnswer, TrialMoves, TrialProgram, TrialRequest, TrialView } from "./trial-messages";

/** A build that takes longer than this is given up as soon as a newer one waits. */
const PATIENCE_MS = 1500;

type WithoutNumber<T> = T extends unknown ? Omit<T, "request"> : never;

export class TrialClient {
  private worker: Worker | null = null;
  private next = 1;
  private building: { started: number } | null = null;
  private waiting: TrialInput | null = null;
  private readonly open = new Map<number, (answer: TrialAnswer | null) => void>();
  private patience: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly onView: (view: TrialView, input: TrialInput) => void,
    private readonly onFailure: (message: string) => void,
  ) {}

  /** Asks for a build; the answer comes through `onView`. Builds that were overtaken never arrive. */
  build(input: TrialInput): void {
    this.waiting = input;
    if (!this.building) this.startNext();
    else if (performance.now() - this.building.started > PATIENCE_MS) this.restart();
    else this.patience ??= setTimeout(() => this.waiting && this.restart(), PATIENCE_MS);
  }

  /** The text of the last built program; null if there is none or it was given up. */
  async program(): Promise<TrialProgram | null> {
    const answer = await this.ask({ kind: "program" });
    return answer?.kind === "program" ? answer.program : null;
  }

  /** The moves of the last built program; null if there are none. */
  async moves(): Promise<TrialMoves | null> {
    const answer = await this.ask({ kind: "moves" });
    return answer?.kind === "moves" ? answer.moves : null;
  }

  /** What a line (from 0) of the last built program means, and what holds behind it. */
  async meaningOf(line: number): Promise<LineMeaning | null> {
    const answer = await this.ask({ kind: "holds", line });
    return answer?.kind === "holds" ? answer.meaning : null;
  }

  close(): void {
    clearTimeout(this.patience);
    this.worker?.terminate();
    this.worker = null;
    for (const resolve of this.open.values()) resolve(null);
    this.open.clear();
  }

  private restart(): void {
    this.close();
    this.patience = undefined;
    this.building = null;
    this.startNext();
  }

  private startNext(): void {
    const input = this.waiting;
    if (!input) return;
    this.waiting = null;
    const building = { started: performance.now() };
    this.building = building;
    void this.ask({ kind: "build", input }).then((answer) => {
      if (this.building !== building) return;
      this.building = null;
      clearTimeout(this.patience);
      this.patience = undefined;
      if (answer?.kind === "view") this.onView(answer.view, input);
      else if (answer?.kind === "failed") this.onFailure(answer.message);
      this.startNext();
    });
  }

  private ask(message: WithoutNumber<TrialRequest>): Promise<TrialAnswer | null> {
    this.worker ??= this.startWorker();
    const request = this.next++;
    return new Promise((resolve) => {
      this.open.set(request, resolve);
      this.worker?.postMessage({ ...message, request });
    });
  }

  private startWorker(): Worker {
    const worker = new Worker(new URL("./trial.worker.ts", import.meta.url), { type: "module" });
    worker.onmessage = ({ data }: MessageEvent<TrialAnswer>) => {
      this.open.get(data.request)?.(data);
      this.open.delete(data.request);
    };
    worker.onerror = () => this.onFailure("The computing part of the page broke off. Reload the page.");
    return worker;
  }
}
