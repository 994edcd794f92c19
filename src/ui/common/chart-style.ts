/** How charts over time look, wherever they stand. */
export const tooltipStyle = {
  background: "var(--raised)",
  border: "1px solid var(--line)",
  borderRadius: 8,
  color: "var(--ink)",
} as const;

/** Axes in the quiet colour, small. */
export const axisStyle = { stroke: "var(--faint)", fontSize: 11 } as const;
