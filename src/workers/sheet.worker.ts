/** Lays and inspects a sheet away from the page. Thin: all computation is the core's. */
import { heaterOf } from "@/core/shelf/printer";
import { filamentAreaMm2 } from "@/core/material/bead";
import { laysMaterial, MoveTable } from "@/core/gcode/moves";
import { limitsFor } from "@/core/motion/limits";
import { heatProfile } from "@/core/report/report";
import { buildSheet, layOn } from "@/core/sheets/program";
import { secondsOfMoves } from "@/core/sheets/seconds";
import { SheetAnswer, SheetRequest, sheetRequestSchema, SheetView } from "./sheet-messages";

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const parsed = sheetRequestSchema.safeParse(data);
  const request = Number((data as { request?: unknown } | null)?.request);
  if (!parsed.success) {
    const [{ path, message }] = parsed.error.issues;
    answer({ kind: "wrong", request, field: path.slice(2).join("."), message });
    return;
  }
  try {
    if (parsed.data.kind === "lay") lay(parsed.data);
    else inspect(parsed.data);
  } catch (error) {
    answer({ kind: "failed", request, message: String(error) });
  }
};

function lay({ request, input }: SheetRequest): void {
  const started = performance.now();
  const laid = layOn(input, (moves) => {
    answer({ kind: "progress", request, moves });
    return true;
  });
  if (!laid.ok) {
    answer({ kind: "wrong", request, field: laid.field ?? "", message: laid.message });
    return;
  }
  const { moves, row, stroke, fields, layerStarts, tops, strokes } = laid.value;
  const seconds = secondsOfMoves(moves, limitsFor(input.printer));
  const endS = new Float64Array(moves.count);
  let at = 0;
  for (let i = 0; i < moves.count; i++) endS[i] = at += seconds[i];
  const view = { laid: { moves, row, stroke, fields, layerStarts, tops, strokes }, room: roomOf(moves), endS };
  answer({ kind: "laid", request, view: { ...view, tookMs: performance.now() - started } }, [
    moves.x.buffer,
    moves.y.buffer,
    moves.z.buffer,
    row.buffer,
    stroke.buffer,
    endS.buffer,
  ]);
}

function roomOf({ count, x, y, z, kind }: MoveTable): SheetView["room"] {
  const room = { minX: Infinity, maxX: -Infinity, minY: Infinity, maxY: -Infinity, maxZ: 0 };
  for (let i = 1; i < count; i++) {
    if (!laysMaterial(kind[i])) continue;
    for (const at of [i - 1, i]) {
      if (x[at] < room.minX) room.minX = x[at];
      if (x[at] > room.maxX) room.maxX = x[at];
      if (y[at] < room.minY) room.minY = y[at];
      if (y[at] > room.maxY) room.maxY = y[at];
      if (z[at] > room.maxZ) room.maxZ = z[at];
    }
  }
  return room.minX <= room.maxX ? room : null;
}

function inspect({ request, input }: SheetRequest): void {
  const built = buildSheet(input);
  if (!built.ok) {
    answer({ kind: "wrong", request, field: built.field ?? "", message: built.message });
    return;
  }
  const { figures, findings, passed, bytes, report, byLayer, tables, lineOfMove } = built.value;
  const { printer, spool } = input;
  const area = filamentAreaMm2(input.spool.diameterMm);
  const inspection = {
    figures,
    findings,
    passed,
    program: {
      bytes: bytes as Uint8Array<ArrayBuffer>,
      layerLines: tables.layers.map(({ insertLine }) => insertLine - 1),
      lineOfMove,
    },
    layers: {
      tops: Float64Array.from(report.layers, ({ zMm }) => zMm),
      setC: byLayer.nozzleTemperature,
      expectedC: heatProfile(report.layers, byLayer.nozzleTemperature, heaterOf(printer), spool).expectedC,
      fanPercent: byLayer.fan,
      seconds: Float32Array.from(report.layers, ({ seconds }) => seconds),
      peakFlowMm3S: Float32Array.from(report.layers, ({ peakFilamentMmS }) => peakFilamentMmS * area),
    },
  };
  answer({ kind: "inspected", request, inspection }, [bytes.buffer as ArrayBuffer, lineOfMove.buffer as ArrayBuffer]);
}

function answer(message: SheetAnswer, transfer: Transferable[] = []): void {
  self.postMessage(message, { transfer });
}
