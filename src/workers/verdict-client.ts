/** The page's end of the verdict worker: with every mark the newest reading is asked for, and what it overtakes is dropped. */
import { NewestClient, WithoutNumber } from "./newest-client";
import type { VerdictAnswer, VerdictMessage } from "./verdict-messages";

export type VerdictInput = WithoutNumber<VerdictMessage>;

/** A verdict that is older than a newer reading is still worth showing: only one that drags on is given up for it. */
const PATIENCE_MS = 3000;

export class VerdictClient extends NewestClient<VerdictInput, VerdictMessage, VerdictAnswer> {
  constructor(private readonly onAnswer: (answer: VerdictAnswer, input: VerdictInput) => void) {
    super(PATIENCE_MS, (message) => onAnswer({ kind: "failed", request: 0, message }, {} as VerdictInput));
  }

  protected startWorker(): Worker {
    return new Worker(new URL("./verdict.worker.ts", import.meta.url), { type: "module" });
  }

  protected messageFor(input: VerdictInput): VerdictInput {
    return input;
  }

  protected receive(answer: VerdictAnswer, input: VerdictInput): void {
    this.onAnswer(answer, input);
  }
}
