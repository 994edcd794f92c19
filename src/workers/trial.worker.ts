/** Builds and inspects a trial away from the page. Thin: all computation is the core's. */
import { explainLine } from "@/core/firmware/explain";
import { sayState } from "@/core/firmware/holds";
import { stateBehind } from "@/core/gcode/state-behind";
import { readingOf } from "@/core/machine/reading";
import { buildTrial, BuiltTrial } from "@/core/trials/build";
import { TrialInput } from "@/core/trials/trial";
import { InspectedTrial, inspectTrial } from "@/core/trials/inspect";
import { viewOf } from "@/core/trials/view";
import { LineMeaning, TrialAnswer, trialRequestSchema } from "./trial-messages";

let last: { input: TrialInput; built: BuiltTrial; inspected: InspectedTrial } | null = null;

/** One after the other: what a build needs may have to be loaded first. */
let turn = Promise.resolve();
self.onmessage = ({ data }: MessageEvent<unknown>) => {
  turn = turn.then(() => take(data));
};

async function take(data: unknown): Promise<void> {
  const parsed = trialRequestSchema.safeParse(data);
  if (!parsed.success) {
    const request = Number((data as { request?: unknown } | null)?.request);
    answer({ kind: "failed", request, message: parsed.error.issues[0].message });
    return;
  }
  const message = parsed.data;
  try {
    if (message.kind === "build") {
      // Formulas, and all that understands them, only where a trial is on a sheet.
      const pieces = message.input.trial.sheet ? (await import("@/core/trials/sheet-piece")).sheetPieces : undefined;
      const built = buildTrial(message.input, pieces);
      const inspected = inspectTrial(message.input, built);
      last = { input: message.input, built, inspected };
      answer({ kind: "view", request: message.request, view: viewOf(message.input, built, inspected) });
    } else if (message.kind === "program") {
      const program = last && {
        bytes: last.built.bytes,
        insertedLines: last.inspected.tables.cucharaLines.map(({ line }) => line),
        layerLines: last.inspected.tables.layers.map(({ insertLine }) => insertLine - 1),
      };
      answer({ kind: "program", request: message.request, program });
    } else if (message.kind === "holds") {
      answer({ kind: "holds", request: message.request, meaning: last && meaningOf(last, message.line) });
    } else {
      const moves = last && {
        moves: {
          count: last.built.moves.count,
          x: last.built.moves.x,
          y: last.built.moves.y,
          z: last.built.moves.z,
          kind: last.built.moves.kind,
          layer: last.built.moves.layer,
        },
        layerStarts: Uint32Array.from(last.built.layerStarts),
      };
      answer({ kind: "moves", request: message.request, moves });
    }
  } catch (error) {
    answer({ kind: "failed", request: message.request, message: String(error) });
  }
}

function meaningOf({ input, built: { bytes } }: NonNullable<typeof last>, line: number): LineMeaning {
  const reading = readingOf(input.printer);
  const text = new TextDecoder().decode(bytes).split("\n", line + 1)[line] ?? "";
  const state = stateBehind([bytes], line, { reading, asksProgram: false });
  return { line, words: explainLine(text, reading), holds: sayState(state) };
}

function answer(message: TrialAnswer): void {
  self.postMessage(message);
}
