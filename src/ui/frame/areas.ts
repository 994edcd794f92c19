/** The areas of the program, in the order of work. An area that is not built yet is not here. */
export const areas = [
  { path: "/bench", label: "Bench", key: "B" },
  { path: "/trials", label: "Trials", key: "T" },
  { path: "/workshop", label: "Workshop", key: "W" },
  { path: "/paths", label: "Paths", key: "H" },
  { path: "/printer", label: "Printer", key: "P" },
  { path: "/measure", label: "Measure", key: "M" },
  { path: "/shelf", label: "Shelf", key: "S" },
] as const;
