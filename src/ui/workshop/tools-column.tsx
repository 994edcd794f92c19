"use client";
/** Which tool lays what: each layer a bar, shared by its tools as its filament is. */
import type { LayerReport } from "@/core/report/report";
import { GAP_PX, LogColumn, LogFrame } from "../heightlog/column";
import logStyles from "../heightlog/height-log.module.css";
import { toolColours } from "../theme/tool-colours";

const WIDTH_PX = 96;

export function toolsColumn(layers: readonly LayerReport[]): LogColumn {
  const tools = [...new Set(layers.flatMap((layer) => (layer.tools ?? []).map(([tool]) => tool)))].sort(
    (a, b) => a - b,
  );
  return {
    title: "Tools",
    widthPx: WIDTH_PX,
    hasGround: true,
    head: () => (
      <small>
        {tools.map((tool) => (
          <span key={tool} className={logStyles.legend}>
            <svg width={9} height={9} aria-hidden>
              <rect width={9} height={9} fill={toolColours[tool % toolColours.length]} />
            </svg>{" "}
            {tool}
          </span>
        ))}
      </small>
    ),
    drawing: (frame) => <Drawing layers={layers} tools={tools} frame={frame} />,
  };
}

function Drawing({ layers, tools, frame }: { layers: readonly LayerReport[]; tools: number[]; frame: LogFrame }) {
  const { scale } = frame;
  const innerPx = WIDTH_PX - GAP_PX;
  const paths = tools.map(() => "");
  for (const { zMm, heightMm, filamentMm, tools: shares = [] } of layers) {
    let x = 1;
    for (const [tool, mm] of shares) {
      const width = ((innerPx - 2) * mm) / Math.max(1e-9, filamentMm);
      const y = scale.y(zMm);
      paths[tools.indexOf(tool)] +=
        `M${x.toFixed(1)} ${y.toFixed(1)}h${width.toFixed(1)}v${(heightMm * scale.pxPerMm + 0.2).toFixed(1)}h-${width.toFixed(1)}Z`;
      x += width;
    }
  }
  return (
    <svg
      width={innerPx}
      height={scale.heightPx}
      className={logStyles.drawing}
      role="img"
      aria-label="Which tool lays what"
    >
      {paths.map((d, i) => (
        <path key={i} d={d} fill={toolColours[tools[i] % toolColours.length]} />
      ))}
    </svg>
  );
}
