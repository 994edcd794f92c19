"use client";
/** One layer seen from above. Kinds of move are told apart by weight and pattern as well as by colour. */
import { useEffect, useRef } from "react";
import { MoveKind } from "@/core/gcode/moves";
import type { Spot } from "@/core/specimens/specimen";
import type { TrialMoves } from "@/workers/trial-messages";
import { cleanCanvas } from "../common/canvas";
import { useScheme } from "../frame/scheme";
import { LayerPicker } from "./layer-picker";
import { toolColours } from "../theme/tool-colours";
import { palettes } from "../theme/tokens";
import logStyles from "../heightlog/height-log.module.css";

interface Pen {
  label: string;
  colour: string;
  width: number;
  dash: number[];
}

function pens(palette: (typeof palettes)["light"]): Partial<Record<number, Pen>> {
  return {
    [MoveKind.travel]: { label: "travel", colour: palette.lineStrong, width: 0.8, dash: [2, 3] },
    [MoveKind.outerWall]: { label: "outer wall", colour: palette.primary, width: 2.6, dash: [] },
    [MoveKind.innerWall]: { label: "inner wall", colour: palette.primary, width: 1.3, dash: [] },
    [MoveKind.solid]: { label: "solid fill", colour: palette.trace, width: 1.6, dash: [] },
    [MoveKind.sparse]: { label: "sparse fill", colour: palette.traceSecond, width: 1.6, dash: [7, 2] },
    [MoveKind.bridge]: { label: "bridge", colour: palette.mustard, width: 2.4, dash: [] },
    [MoveKind.skirt]: { label: "skirt or brim", colour: palette.faint, width: 1.6, dash: [6, 3] },
    [MoveKind.support]: { label: "support", colour: palette.faint, width: 1.2, dash: [2, 2] },
    [MoveKind.prime]: { label: "priming", colour: palette.faint, width: 1.2, dash: [] },
  };
}

/** Writes the value of each spot beside it, on the side that looks away from the middle. */
function labelSpots(
  context: CanvasRenderingContext2D,
  spots: readonly Spot[],
  { px, py }: { px(x: number): number; py(y: number): number },
  palette: (typeof palettes)["light"],
): void {
  if (spots.length === 0) return;
  const middleX = spots.reduce((sum, { x }) => sum + x, 0) / spots.length;
  const middleY = spots.reduce((sum, { y }) => sum + y, 0) / spots.length;
  context.font = '500 12px "JetBrains Mono Variable", "JetBrains near", monospace';
  context.textAlign = "center";
  context.textBaseline = "middle";
  for (const { x, y, label } of spots) {
    const away = Math.hypot(x - middleX, y - middleY);
    // On a line of spots there is no outside: the label stands on its spot.
    const spreads = (along: "x" | "y") => spots.some((one) => Math.abs(one[along] - (along === "x" ? x : y)) > 1);
    const round = spots.length > 2 && spreads("x") && spreads("y");
    const shift = round && away > 1 ? 6 / away : 0;
    const at = { x: px(x + (x - middleX) * shift), y: py(y + (y - middleY) * shift) };
    const width = context.measureText(label).width + 8;
    context.fillStyle = palette.surface;
    context.globalAlpha = 0.85;
    context.fillRect(at.x - width / 2, at.y - 8, width, 16);
    context.globalAlpha = 1;
    context.fillStyle = palette.ink;
    context.fillText(label, at.x, at.y + 1);
  }
  context.textBaseline = "alphabetic";
}

interface Props {
  moves: TrialMoves | null;
  layer: number;
  tops: ArrayLike<number>;
  /** Spots of side-by-side values, bed coordinates. */
  spots: readonly Spot[];
  /** The tool of each move, where lines are coloured by it. */
  toolOf?: Uint8Array;
  /** The layer of the moves, where they count others than the heights do. */
  movesLayer?: number;
  heightPx: number;
  onLayer(layer: number): void;
}

export function AboveView(props: Props) {
  const { moves, layer, tops, spots, toolOf, movesLayer = layer, heightPx, onLayer } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  const { scheme } = useScheme();
  const palette = palettes[scheme];
  const drawn = pens(palette);
  useEffect(() => {
    const element = canvas.current;
    if (!element || !moves) return;
    const { clientWidth: width, clientHeight: height } = element;
    const context = cleanCanvas(element, { widthPx: width, heightPx: height });
    if (!context) return;
    const { x, y, kind } = moves.moves;
    // The whole piece sets the frame, so that layers can be compared; skirt and travels may run out of it.
    const box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
    for (let i = 1; i < moves.moves.count; i++) {
      if (kind[i] < MoveKind.outerWall || kind[i] === MoveKind.skirt) continue;
      if (x[i] < box.minX) box.minX = x[i];
      if (x[i] > box.maxX) box.maxX = x[i];
      if (y[i] < box.minY) box.minY = y[i];
      if (y[i] > box.maxY) box.maxY = y[i];
    }
    const margin = 6;
    const perMm = Math.min(width / (box.maxX - box.minX + 2 * margin), height / (box.maxY - box.minY + 2 * margin));
    const px = (value: number) => width / 2 + (value - (box.minX + box.maxX) / 2) * perMm;
    const py = (value: number) => height / 2 - (value - (box.minY + box.maxY) / 2) * perMm;
    const styles = pens(palette);
    const from = moves.layerStarts[movesLayer];
    const to = moves.layerStarts[movesLayer + 1] ?? moves.moves.count;
    const tools = toolOf ? [...new Set(toolOf.subarray(from, to))] : [null];
    for (const [k, pen] of Object.entries(styles)) {
      if (!pen) continue;
      for (const tool of tools) {
        context.beginPath();
        for (let i = Math.max(1, from); i < to; i++) {
          if (kind[i] !== Number(k) || (x[i] === x[i - 1] && y[i] === y[i - 1])) continue;
          if (tool !== null && toolOf![i] !== tool) continue;
          context.moveTo(px(x[i - 1]), py(y[i - 1]));
          context.lineTo(px(x[i]), py(y[i]));
        }
        const isLaid = Number(k) >= MoveKind.outerWall;
        context.strokeStyle = tool !== null && isLaid ? toolColours[tool % toolColours.length] : pen.colour;
        context.lineWidth = pen.width;
        context.setLineDash(pen.dash);
        context.lineCap = "round";
        context.stroke();
      }
    }
    context.setLineDash([]);
    labelSpots(context, spots, { px, py }, palette);
    context.fillStyle = palette.faint;
    context.font = '12px "Figtree Variable", "Figtree near", sans-serif';
    context.textAlign = "center";
    context.fillText("front", width / 2, height - 8);
  }, [moves, movesLayer, spots, toolOf, palette]);
  return (
    <div>
      <LayerPicker layer={layer} tops={tops} onLayer={onLayer} />
      <canvas
        ref={canvas}
        role="img"
        aria-label={`Layer ${layer + 1} seen from above`}
        className="card"
        style={{ width: "100%", height: heightPx - 70, padding: 0, display: "block" }}
      />
      <div className={logStyles.foot}>
        {Object.values(drawn).map(
          (pen) =>
            pen && (
              <span key={pen.label}>
                <svg width={24} height={8} aria-hidden>
                  <line
                    x1={1}
                    x2={23}
                    y1={4}
                    y2={4}
                    stroke={pen.colour}
                    strokeWidth={pen.width}
                    strokeDasharray={pen.dash.join(" ") || undefined}
                  />
                </svg>{" "}
                {pen.label}
              </span>
            ),
        )}
      </div>
    </div>
  );
}
