/** Sheets that ship: a beginning for one's own. */
import type { Sheet } from "./sheet";

const bead = { widthMm: "0.45", heightMm: "h" };
const h = { name: "h", value: "0.2", unit: "mm", low: 0.1, high: 0.3, step: 0.02 };

/** A new sheet: one ring, in layers. */
export const emptySheet: Sheet = {
  version: 1,
  name: "New sheet",
  figures: [h, { name: "r", value: "15", unit: "mm", low: 3, high: 60, step: 1 }],
  bead,
  speedMmS: "40",
  items: [
    {
      kind: "repeat",
      along: "z",
      count: "20",
      spacingMm: "h",
      counter: "n",
      items: [{ kind: "circle", centre: ["110", "110"], radiusMm: "r" }],
    },
  ],
  keepOut: [],
};

export const exampleSheets: Sheet[] = [
  {
    version: 1,
    name: "Marble cups of touching rings",
    figures: [
      h,
      { name: "r", value: "8", unit: "mm", low: 4, high: 15, step: 0.5 },
      { name: "gap", value: "2*r + 0.4", unit: "mm" },
    ],
    bead,
    speedMmS: "40",
    items: [
      {
        kind: "repeat",
        along: "z",
        count: "25",
        spacingMm: "h",
        counter: "n",
        items: [
          {
            kind: "repeat",
            along: "y",
            count: "8",
            spacingMm: "gap",
            items: [
              {
                kind: "repeat",
                along: "x",
                count: "10",
                spacingMm: "gap",
                items: [{ kind: "circle", centre: ["36", "52"], radiusMm: "r", faces: "64" }],
              },
            ],
          },
        ],
      },
    ],
    keepOut: [],
  },
  {
    version: 1,
    name: "A lamp of waves that turn as it grows",
    figures: [
      h,
      { name: "waves", value: "9", low: 3, high: 24, step: 1 },
      { name: "deep", value: "4", unit: "mm", low: 0, high: 10 },
    ],
    bead,
    speedMmS: "35",
    items: [
      // The first turn has something to stand on: it grows out of a ring on the bed.
      { kind: "circle", centre: ["110", "110"], radiusMm: "30", faces: "240", start: "0" },
      {
        kind: "climb",
        centre: ["110", "110"],
        radiusMm: "30 + deep*sin(waves*a + z/8)*min(1, z/10)",
        fromMm: "h",
        toMm: "60",
        risePerTurnMm: "h",
        facesPerTurn: "240",
        flow: "100*min(1, (z - h)/h)",
      },
    ],
    keepOut: [],
  },
  {
    version: 1,
    name: "A ladder of bead widths",
    figures: [h],
    bead,
    speedMmS: "30",
    items: [
      {
        kind: "repeat",
        along: "y",
        count: "bands",
        spacingMm: "6",
        counter: "k",
        items: [
          {
            kind: "line",
            points: [
              ["70", "80"],
              ["150", "80"],
            ],
            bead: { widthMm: "band(k)" },
          },
        ],
      },
    ],
    keepOut: [],
    rehearse: { from: "0.3", to: "0.7", bands: "9" },
  },
  {
    version: 1,
    name: "A spring clip of few faces",
    figures: [h, { name: "faces", value: "7", low: 3, high: 24, step: 1 }],
    bead,
    speedMmS: "35",
    items: [
      {
        kind: "repeat",
        along: "z",
        count: "40",
        spacingMm: "h",
        items: [
          { kind: "polygon", centre: ["110", "110"], radiusMm: "9", sides: "faces" },
          { kind: "arc", centre: ["110", "110"], radiusMm: "9.4", from: "40 deg", to: "320 deg" },
        ],
      },
    ],
    keepOut: [],
  },
  {
    version: 1,
    name: "A funnel wall with a window kept out",
    figures: [h],
    bead,
    speedMmS: "35",
    items: [
      { kind: "circle", centre: ["110", "110"], radiusMm: "12 + h/3", faces: "180", start: "0" },
      {
        kind: "climb",
        centre: ["110", "110"],
        radiusMm: "12 + z/3",
        fromMm: "h",
        toMm: "45",
        risePerTurnMm: "h",
        facesPerTurn: "180",
        flow: "100*min(1, (z - h)/h)",
      },
    ],
    keepOut: [{ shape: "rectangle", centre: [110, 90], widthMm: 10, depthMm: 24, fromMm: 15, toMm: 25 }],
  },
  {
    version: 1,
    name: "A ramp on thin pillars",
    figures: [h, { name: "apart", value: "14", unit: "mm", low: 8, high: 24, step: 1 }],
    bead,
    speedMmS: "30",
    items: [
      {
        kind: "repeat",
        along: "z",
        count: "60",
        spacingMm: "h",
        items: [
          {
            kind: "repeat",
            along: "x",
            count: "6",
            spacingMm: "apart",
            items: [{ kind: "rectangle", centre: ["70", "110"], widthMm: "3", depthMm: "8" }],
          },
        ],
      },
      {
        kind: "group",
        name: "strands over air",
        items: [
          {
            kind: "repeat",
            along: "y",
            count: "18",
            spacingMm: "0.42",
            items: [
              {
                kind: "line",
                points: [
                  ["68.5", "106.2"],
                  ["71.5 + 5*apart", "106.2"],
                ],
                z: "61*h",
                speedMmS: "10",
                flow: "90",
              },
            ],
          },
        ],
      },
    ],
    keepOut: [],
  },
  {
    version: 1,
    name: "An arch laid not flat",
    figures: [h],
    bead,
    speedMmS: "25",
    items: [
      {
        kind: "repeat",
        along: "z",
        count: "12",
        spacingMm: "h",
        counter: "n",
        items: [
          {
            kind: "curve",
            from: "0",
            to: "1",
            // There and back: a way back below the arch would strike it.
            x: "60 + 100*(n % 2 == 0 ? t : 1 - t)",
            y: "110",
            z: "h*(n + 1)*(1 + 1.5*sin(pi*t))",
            steps: "200",
            bead: { heightMm: "h*(1 + 1.5*sin(pi*t))" },
          },
        ],
      },
    ],
    keepOut: [],
  },
  {
    version: 1,
    name: "A plate with a word in single strokes",
    figures: [h, { name: "size", value: "14", unit: "mm", low: 6, high: 24, step: 1 }],
    bead,
    speedMmS: "35",
    items: [
      {
        kind: "repeat",
        along: "z",
        count: "4",
        spacingMm: "h",
        counter: "n",
        items: [
          {
            kind: "rectangle",
            centre: ["110", "110"],
            widthMm: "110",
            depthMm: "size + 16",
            cornerMm: "5",
            fill: { pattern: "lines", angle: "45 deg + n*90 deg" },
          },
        ],
      },
      {
        kind: "repeat",
        along: "z",
        count: "3",
        spacingMm: "h",
        counter: "k",
        items: [
          {
            kind: "word",
            text: "CUCHARA",
            at: ["64", "110 - size/2"],
            sizeMm: "size",
            z: "(5 + k)*h",
            bead: { widthMm: "0.6" },
          },
        ],
      },
    ],
    keepOut: [],
  },
];
