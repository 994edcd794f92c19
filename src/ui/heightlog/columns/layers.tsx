"use client";
import type { LogColumn, LogFrame } from "../column";

/** Names nearer than this to one another cannot be read, px. */
const ROW_PX = 12;

interface Layers {
  title: string;
  widthPx: number;
  /** Numbers in the comments that open the layers. */
  markers?: (number | undefined)[];
}

/** The first layer of each band, counted from 1, and what the file calls it. */
export function layersColumn({ title, widthPx, markers }: Layers): LogColumn {
  return {
    title,
    widthPx,
    strokes: (frame) => <Names {...frame} markers={markers} />,
    tag: ({ layer }) => `L${layer + 1}`,
    tagAt: { left: -6, width: 56 },
  };
}

/** Holds the place of a drawing that is not there yet. */
export function emptyColumn(widthPx: number, title: string): LogColumn {
  return { title, widthPx, hasGround: true, holdsEdges: true };
}

function Names({ leftPx, bands, scale, markers }: LogFrame & Pick<Layers, "markers">) {
  let lastY = Infinity;
  return (
    <g>
      {bands.map((band, i) => {
        const y = scale.y(band.fromMm) - 5;
        if (lastY - y < ROW_PX) return null;
        lastY = y;
        const marker = markers?.[band.firstLayer];
        return (
          <text key={i} x={leftPx + 6} y={y}>
            L{band.firstLayer + 1}
            {marker !== undefined && marker !== band.firstLayer + 1 ? ` (${marker})` : ""}
          </text>
        );
      })}
    </g>
  );
}
