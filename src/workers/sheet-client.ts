/** The page's end of the sheet worker: one lays, another inspects what was laid, so that a key stroke never waits for checks. */
import type { SheetInput } from "@/core/sheets/program";
import { NewestClient, WithoutNumber } from "./newest-client";
import type { SheetAnswer, SheetRequest } from "./sheet-messages";

export class SheetClient extends NewestClient<SheetInput, SheetRequest, SheetAnswer> {
  constructor(
    private readonly what: SheetRequest["kind"],
    private readonly onAnswer: (answer: SheetAnswer, input: SheetInput) => void,
    private readonly onProgress: (moves: number) => void,
    patienceMs: number,
  ) {
    super(patienceMs, (message) => onAnswer({ kind: "failed", request: 0, message }, {} as SheetInput));
  }

  protected startWorker(): Worker {
    return new Worker(new URL("./sheet.worker.ts", import.meta.url), { type: "module" });
  }

  protected messageFor(input: SheetInput): WithoutNumber<SheetRequest> {
    return { kind: this.what, input };
  }

  protected receive(answer: SheetAnswer, input: SheetInput): void {
    this.onAnswer(answer, input);
  }

  protected override receiveProgress(told: SheetAnswer): void {
    if (told.kind === "progress") this.onProgress(told.moves);
  }

  protected override isLast({ kind }: SheetAnswer): boolean {
    return kind !== "progress";
  }
}
