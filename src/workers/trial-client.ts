/** The page's end of the trial worker. */
import type { TrialInput } from "@/core/trials/trial";
import { NewestClient, WithoutNumber } from "./newest-client";
import type { LineMeaning, TrialAnswer, TrialMoves, TrialProgram, TrialRequest, TrialView } from "./trial-messages";

/** A build that takes longer than this is given up as soon as a newer one waits. */
const PATIENCE_MS = 1500;

export class TrialClient extends NewestClient<TrialInput, TrialRequest, TrialAnswer> {
  constructor(
    private readonly onView: (view: TrialView, input: TrialInput) => void,
    private readonly onFailure: (message: string) => void,
  ) {
    super(PATIENCE_MS, onFailure);
  }

  /** Asks for a build; the answer comes through `onView`. Builds that were overtaken never arrive. */
  build(input: TrialInput): void {
    this.request(input);
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

  protected startWorker(): Worker {
    return new Worker(new URL("./trial.worker.ts", import.meta.url), { type: "module" });
  }

  protected messageFor(input: TrialInput): WithoutNumber<TrialRequest> {
    return { kind: "build", input };
  }

  protected receive(answer: TrialAnswer, input: TrialInput): void {
    if (answer.kind === "view") this.onView(answer.view, input);
    else if (answer.kind === "failed") this.onFailure(answer.message);
  }
}
