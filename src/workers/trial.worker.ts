/** Builds and inspects a trial away from the page. Thin: all computation is the core's. */
import { spotsOnBed } from "@/core/printing/piece";
import { explainLine } from "@/core/firmware/explain";
import { sayState } from "@/core/firmware/holds";
import { stateBehind } from "@/core/gcode/state-behind";
import { readingOf } from "@/core/machine/reading";
import { outOfReach, sayOutOfReach } from "@/core/heightplan/reach";
import { frontView } from "@/core/printing/front-view";
import { filamentAreaMm2 } from "@/core/material/bead";
import { bedCentre } from "@/core/shelf/printer";
import { buildTrial, BuiltTrial } from "@/core/trials/build";
import { TrialInput } from "@/core/trials/trial";
import { InspectedTrial, inspectTrial } from "@/core/trials/inspect";
import { LineMeaning, TrialAnswer, trialRequestSchema, TrialView } from "./trial-messages";

let last: { input: TrialInput; built: BuiltTrial; inspected: InspectedTrial } | null = null;

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const parsed = trialRequestSchema.safeParse(data);
  if (!parsed.success) {
    const request = Number((data as { request?: unknown } | null)?.request);
    answer({ kind: "failed", request, message: parsed.error.issues[0].message });
    return;
  }
  const message = parsed.data;
  try {
    if (message.kind === "build") {
      const started = performance.now();
      const built = buildTrial(message.input);
      const inspected = inspectTrial(message.input, built);
      last = { input: message.input, built, inspected };
      answer({ kind: "view", request: message.request, view: viewOf(message.input, built, inspected, started) });
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
};

function meaningOf({ input, built: { bytes } }: NonNullable<typeof last>, line: number): LineMeaning {
  const reading = readingOf(input.printer);
  const text = new TextDecoder().decode(bytes).split("\n", line + 1)[line] ?? "";
  const state = stateBehind(bytes, line, { reading, asksProgram: false });
  return { line, words: explainLine(text, reading), holds: sayState(state) };
}

function viewOf(
  { trial, spool, printer }: TrialInput,
  built: BuiltTrial,
  inspected: InspectedTrial,
  started: number,
): TrialView {
  const { report, heat, byLayer } = inspected;
  const area = filamentAreaMm2(spool.diameterMm);
  return {
    tops: Float64Array.from(report.layers, ({ zMm }) => zMm),
    bands: built.bands,
    front: frontView(built.slices),
    widthMm: built.shape.widthMm,
    legend: [built.shape.legend, sayOutOfReach(outOfReach(trial, printer))].filter(Boolean).join(" "),
    spots: spotsOnBed(built.shape.spots ?? [], bedCentre(printer)),
    layers: {
      seconds: Float32Array.from(report.layers, ({ seconds }) => seconds),
      flowMm3S: Float32Array.from(report.layers, ({ seconds, filamentMm }) =>
        seconds > 0 ? (filamentMm * area) / seconds : 0,
      ),
      peakFlowMm3S: Float32Array.from(report.layers, ({ peakFilamentMmS }) => peakFilamentMmS * area),
    },
    nozzle: { setC: heat.setC, expectedC: heat.expectedC },
    fan: { setPercent: byLayer.fan, expectedPercent: inspected.fanPercent },
    bandSettled: inspected.bandSettled,
    lead: inspected.lead,
    seconds: report.seconds,
    filamentMm: inspected.filamentMm,
    massG: inspected.massG,
    cost: inspected.cost,
    findings: inspected.findings,
    passed: inspected.passed,
    tookMs: performance.now() - started,
  };
}

function answer(message: TrialAnswer): void {
  self.postMessage(message);
}
