/** The page's end of a worker: one piece of work at a time, the newest wins, and one that drags on is cancelled for a newer one. */

export type WithoutNumber<T> = T extends unknown ? Omit<T, "request"> : never;

interface Numbered {
  request: number;
}

export abstract class NewestClient<Input, Request extends Numbered, Answer extends Numbered> {
  private worker: Worker | null = null;
  private next = 1;
  private working: { started: number; input: Input } | null = null;
  private hasBroken = false;
  private waiting: { input: Input } | null = null;
  private readonly open = new Map<number, (answer: Answer | null) => void>();
  private patience: ReturnType<typeof setTimeout> | undefined;

  /** @param patienceMs work that takes longer is given up as soon as newer work waits */
  constructor(
    private readonly patienceMs: number,
    private readonly onBroken: (message: string) => void,
  ) {}

  /** Asks for a piece of work; those that were overtaken are never answered. */
  request(input: Input): void {
    this.waiting = { input };
    if (!this.working) this.startNext();
    else if (performance.now() - this.working.started > this.patienceMs) this.restart();
    else this.patience ??= setTimeout(() => this.waiting && this.restart(), this.patienceMs);
  }

  close(): void {
    clearTimeout(this.patience);
    this.patience = undefined;
    this.working = null;
    if (this.worker) {
      // What is ended while it loads may call that an error.
      this.worker.onerror = null;
      this.worker.terminate();
    }
    this.worker = null;
    for (const resolve of this.open.values()) resolve(null);
    this.open.clear();
  }

  protected abstract startWorker(): Worker;
  protected abstract messageFor(input: Input): WithoutNumber<Request>;
  protected abstract receive(answer: Answer, input: Input): void;
  /** Hears of what is no answer: how far the work is. */
  protected receiveProgress(_told: Answer): void {}
  /** Whether this ends what was asked for. */
  protected isLast(_answer: Answer): boolean {
    return true;
  }

  protected ask(message: WithoutNumber<Request>): Promise<Answer | null> {
    this.worker ??= this.createWorker();
    const request = this.next++;
    return new Promise((resolve) => {
      this.open.set(request, resolve);
      this.worker?.postMessage({ ...message, request });
    });
  }

  private restart(): void {
    this.close();
    this.startNext();
  }

  private startNext(): void {
    const next = this.waiting;
    if (!next) return;
    this.waiting = null;
    const working = { started: performance.now(), input: next.input };
    this.working = working;
    void this.ask(this.messageFor(next.input)).then((answer) => {
      if (this.working !== working) return;
      this.working = null;
      clearTimeout(this.patience);
      this.patience = undefined;
      if (answer) {
        this.hasBroken = false;
        this.receive(answer, next.input);
      }
      this.startNext();
    });
  }

  private createWorker(): Worker {
    const worker = this.startWorker();
    worker.onmessage = ({ data }: MessageEvent<Answer>) => {
      if (!this.isLast(data)) {
        if (this.open.has(data.request)) this.receiveProgress(data);
        return;
      }
      this.open.get(data.request)?.(data);
      this.open.delete(data.request);
    };
    worker.onerror = () => this.retry();
    return worker;
  }

  /** A worker that broke off (its script did not come, say) is begun anew once; then it is said. */
  private retry(): void {
    const lost = this.working?.input;
    this.close();
    if (this.hasBroken || lost === undefined) {
      this.onBroken("The computing part of the page broke off. Reload the page.");
      return;
    }
    this.hasBroken = true;
    this.waiting ??= { input: lost };
    this.startNext();
  }
}
