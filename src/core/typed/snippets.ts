/** Beginnings of the trade for a program from nothing, filled in for the printer. Common practice, no source. */
import { bedCentre, bedDepthMm, Printer } from "../shelf/printer";
import { plainNumber } from "../units";

export interface Snippet {
  name: string;
  lines(printer: Printer): string[];
}

const SIDE_MM = 20;
const FROM_EDGE_MM = 20;
const HEIGHT_MM = 5;
const PURGE_MM = 60;
const at = (mm: number) => plainNumber(mm, 1);

/** Goes round the four corners and the middle, a sheet of paper's thickness above the bed at each. */
function corners(printer: Printer): string[] {
  const { x, y } = bedCentre(printer);
  // The corners of a round bed lie on its circle.
  const shrink = printer.bedShape === "round" ? Math.SQRT1_2 : 1;
  const [dx, dy] = [printer.bedWidthMm / 2 - FROM_EDGE_MM, bedDepthMm(printer) / 2 - FROM_EDGE_MM].map(
    (mm) => mm * shrink,
  );
  const places = [
    [-dx, -dy, "front left"],
    [dx, -dy, "front right"],
    [dx, dy, "back right"],
    [-dx, dy, "back left"],
    [0, 0, "the middle"],
  ] as const;
  return [
    "G28 ; home all axes",
    "G90 ; positions from zero",
    ...places.flatMap(([byX, byY, name]) => [
      `G0 Z${HEIGHT_MM} F600`,
      `G0 X${at(x + byX)} Y${at(y + byY)} F6000 ; ${name}`,
      "G0 Z0.1 F300",
      `M0 ${name}: paper just held?`,
    ]),
    `G0 Z${HEIGHT_MM} F600`,
    "M84",
  ];
}

export const snippets: Snippet[] = [
  {
    name: "Home, and go to the middle",
    lines(printer) {
      const { x, y } = bedCentre(printer);
      return [
        "G28 ; home all axes",
        "G90 ; positions from zero",
        `G0 Z${HEIGHT_MM} F600`,
        `G0 X${at(x)} Y${at(y)} F6000 ; the middle of the bed`,
      ];
    },
  },
  {
    name: "A square of 20 mm round the middle",
    lines(printer) {
      const { x, y } = bedCentre(printer);
      const half = SIDE_MM / 2;
      return [
        "G28",
        "G90",
        `G0 Z${HEIGHT_MM} F600`,
        `G0 X${at(x)} Y${at(y)} F6000`,
        "G91 ; positions from where it stands",
        `G0 X-${half} Y-${half} F3000`,
        `G0 X${SIDE_MM}`,
        `G0 Y${SIDE_MM}`,
        `G0 X-${SIDE_MM}`,
        `G0 Y-${SIDE_MM}`,
        `G0 X${half} Y${half}`,
        "G90 ; positions from zero again",
      ];
    },
  },
  {
    name: "The middle corrected by its offset",
    lines(printer) {
      const { x, y } = bedCentre(printer);
      return [
        "G28",
        "G90",
        `G0 Z${HEIGHT_MM} F600`,
        `G0 X${at(x)} Y${at(y)} F6000 ; where the printer thinks the middle is`,
        "; measured: the true middle lies 1.5 mm to the right of that and 2 mm before it",
        `G92 X${at(x - 1.5)} Y${at(y + 2)} ; calls the place what it is, seen from the true middle`,
        `G0 X${at(x)} Y${at(y)} F3000 ; now the true middle`,
      ];
    },
  },
  {
    name: "A purge line at the front",
    lines(printer) {
      const { x, y } = bedCentre(printer);
      const isRound = printer.bedShape === "round";
      // A round bed has no front edge: the line is a chord near it.
      const left = isRound ? x - PURGE_MM / 2 : x - printer.bedWidthMm / 2 + FROM_EDGE_MM;
      const front = isRound ? y - 0.4 * printer.bedWidthMm : y - bedDepthMm(printer) / 2 + 10;
      return [
        "M140 S60",
        "M104 S205",
        "G28",
        "G90",
        "M83 ; filament from where it stands",
        "M190 S60 ; waits for the bed",
        "M109 S205 ; waits for the nozzle",
        `G0 X${at(left)} Y${at(front)} Z2 F6000`,
        "G0 Z0.3 F600",
        `G1 X${at(left + PURGE_MM)} E8 F900 ; thick and slow`,
        "G0 Z2 F600",
        "M104 S0",
        "M140 S0",
        "M84",
      ];
    },
  },
  {
    name: "100 mm of filament fed, to be measured",
    lines: () => [
      "M104 S210",
      "M109 S210",
      "M83",
      "; mark the filament 120 mm from where it goes in",
      "G1 E100 F60 ; slowly, so that nothing slips",
      "; 20 mm should be left",
      "M104 S0",
      "M84 E",
    ],
  },
  { name: "Round the corners, to level the bed", lines: corners },
];
