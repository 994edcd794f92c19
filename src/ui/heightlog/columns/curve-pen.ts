/** How a curve of the log is drawn; told apart by weight and pattern as well as by colour. */
import type { LogCurve } from "./curves";

export interface CurvePen {
  stroke: string;
  strokeWidth: number;
  strokeDasharray?: string;
}

const pens: Record<LogCurve["style"], CurvePen> = {
  planned: { stroke: "var(--ink)", strokeWidth: 1.3, strokeDasharray: "5 3" },
  expected: { stroke: "var(--trace)", strokeWidth: 2.4 },
  plain: { stroke: "var(--trace-second)", strokeWidth: 1.7 },
  limit: { stroke: "var(--bad)", strokeWidth: 1.6, strokeDasharray: "1.5 3" },
};

export function penOf(style: LogCurve["style"]): CurvePen {
  return pens[style];
}
