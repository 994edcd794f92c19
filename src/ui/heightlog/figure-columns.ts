/** The columns of a finished program's figures: heat, flow, fan and time along the height. */
import type { LogColumn } from "./column";
import { curvesColumn } from "./columns/curves";
import { layersColumn } from "./columns/layers";
import { millimetresColumn } from "./columns/millimetres";

export interface LayerFigures {
  seconds: ArrayLike<number>;
  peakFlowMm3S: ArrayLike<number>;
  /** °C told, and what comes of it; null where no heater is known. */
  setC: Float64Array;
  expectedC: Float32Array | null;
  fanPercent: Float64Array;
  /** What the hot end melts, mm³/s; null where it is not known. */
  meltsMm3S: number | null;
  /** Numbers in the comments that open layers. */
  markers?: (number | undefined)[];
}

/** How wide the columns of curves are, px; one of no width is left out. */
export interface FigureWidths {
  nozzlePx: number;
  flowPx: number;
  fanPx: number;
  timePx: number;
}
const USUAL: FigureWidths = { nozzlePx: 210, flowPx: 170, fanPx: 110, timePx: 120 };

/** @param besides columns between the layers and the curves */
export function figureColumns(
  figures: LayerFigures,
  besides: LogColumn[] = [],
  { nozzlePx, flowPx, fanPx, timePx }: FigureWidths = USUAL,
): LogColumn[] {
  const { seconds, peakFlowMm3S, setC, expectedC, fanPercent, meltsMm3S, markers = [] } = figures;
  const flow = Array.from(peakFlowMm3S);
  return [
    millimetresColumn(),
    layersColumn({ title: "layer", widthPx: 76, markers }),
    ...besides,
    curvesColumn({
      title: "Nozzle, °C",
      widthPx: nozzlePx,
      unit: "°C",
      curves: [
        { label: "told", values: setC, style: "planned" },
        ...(expectedC ? [{ label: "expected", values: expectedC, style: "expected" as const }] : []),
      ],
    }),
    curvesColumn({
      title: "Flow, mm³/s",
      widthPx: flowPx,
      unit: "mm³/s",
      curves: [
        { label: "asked", values: flow, style: "plain" },
        ...(meltsMm3S ? [{ label: "melts", values: flow.map(() => meltsMm3S), style: "limit" as const }] : []),
      ],
    }),
    ...(fanPx > 0
      ? [
          curvesColumn({
            title: "Fan, %",
            widthPx: fanPx,
            unit: "%",
            range: [0, 100],
            curves: [{ label: "fan", values: fanPercent, style: "plain" }],
          }),
        ]
      : []),
    curvesColumn({
      title: "Layer, s",
      widthPx: timePx,
      unit: "s",
      curves: [{ label: "time", values: Array.from(seconds), style: "plain" }],
    }),
  ];
}
