import { columnsOf } from "../../heightplan/planned";
import type { Process } from "../../printing/process";
import { SettingKey } from "../../settings";
import { DECK_LAYERS, deckFirstLayer } from "../../specimens/harp-deck";
import { TrialKind } from "../kind";
import { needs } from "../need";
import { numberOption, Option } from "../../options/option";
import { fanFor, nozzleFor, stackBands, usualFixed } from "../rounds";

const STEP_C = 5;
const MOST_BANDS = 5;
/** A step of 5 to 15 °C settles in a layer or two. */
const USUAL_COOL_LAYERS = 3;
const ordinals = ["First", "Second", "Third"];

/** Speed, flow and fan of each layer over air: slow and lean, lean, as usual (common practice, no source). */
const usual = [
  { speed: 10, flow: 90, fan: 100, warmer: 0 },
  { speed: 20, flow: 95, fan: 100, warmer: 0 },
  { speed: 30, flow: 100, fan: 100, warmer: 0 },
];

const layerOptions: Option[] = usual.flatMap(({ speed, flow, fan, warmer }, i): Option[] => {
  const n = i + 1;
  const named = (what: string) => `${ordinals[i]} layer over air, ${what}`;
  return [
    {
      key: `speed${n}`,
      // Walls beside the fill of the further layers stand on what was laid over air: they need no slowing.
      label: named(i === 0 ? "speed" : "speed of its fill"),
      kind: "number",
      unit: "mm/s",
      low: 1,
      high: 300,
      step: 5,
      decimals: 0,
      usual: speed,
    },
    {
      key: `flow${n}`,
      label: named("flow"),
      kind: "number",
      unit: "%",
      low: 20,
      high: 200,
      step: 5,
      decimals: 0,
      usual: flow,
    },
    {
      key: `fan${n}`,
      label: named("fan"),
      kind: "number",
      unit: "%",
      low: 0,
      high: 100,
      step: 10,
      decimals: 0,
      usual: fan,
    },
    {
      key: `warmer${n}`,
      label: named("warmer than the band"),
      kind: "number",
      unit: "°C",
      low: -30,
      high: 60,
      step: 5,
      decimals: 0,
      usual: warmer,
    },
  ];
});

export const bridging: TrialKind = {
  label: "Bridging",
  question: (spool) => `How far can ${spool.colourName || spool.name} be laid over air?`,
  answers: "How cool, slow and thin to cross a gap",
  explains:
    "Finds how cool, slow and lean the first layers over air must be, and how wide a gap they cross. Turn the piece over, where nothing hides them, and look at the underside of every span: flat, smooth, no hanging loops.",
  needs: [needs.temperature, needs.fan],
  setting: () => "nozzleTemperature",
  options: [
    {
      key: "coolLayers",
      label: "Cool the nozzle before",
      kind: "number",
      unit: "layers",
      low: 0,
      high: 40,
      step: 1,
      decimals: 0,
      usual: USUAL_COOL_LAYERS,
    },
    ...layerOptions,
  ],
  specimen: () => "harp",
  firstRound(request) {
    const { spool, printer } = request;
    const warm = nozzleFor(request);
    const low = Math.min(spool.labelMinC, warm);
    const step = Math.max(STEP_C, Math.ceil((warm - low) / (MOST_BANDS - 1) / STEP_C) * STEP_C);
    const values: number[] = [];
    for (let value = warm; value >= low && values.length < MOST_BANDS; value -= step) values.push(value);
    const stack = { key: "nozzleTemperature" as const, values, bandMm: 4.2, lowestBandMm: 4 };
    const { plan, notes } = stackBands(request, stack);
    const fixed = usualFixed(request, [], { fan: fanFor(printer, spool.fanPercent) });
    return { plan, fixed, notes };
  },
  early: {
    now: ({ coolLayers }) => (typeof coolLayers === "number" ? coolLayers : USUAL_COOL_LAYERS),
    tell: ({ options }, coolLayers) => ({ options: { ...options, coolLayers } }),
  },
  reads: () => ({
    rule: "best",
    uses: [
      { key: "bridge", weight: 2 },
      { key: "surface", weight: 0.5 },
    ],
    measure: { key: "sag", tells: "sag", label: "Sag in the middle of the span", usualCount: 1 },
  }),
  range: (_, spool) => ({ low: spool.labelMinC, high: spool.labelMaxC }),
  // Only what lies over air is slow: slow posts would cost most of the time and show nothing.
  layerProcess({ bands, tops, options, layerHeightMm }, usual) {
    const flow = numberOption(options, "flow1") / 100;
    const speedOf = (n: number) => numberOption(options, `speed${n}`);
    const first: Process = {
      ...usual,
      bridgeMmS: speedOf(1),
      bridgePitchMm: usual.bridgeStrandMm * Math.sqrt(Math.min(1, flow)),
    };
    const further = [2, 3].map((n): Process => ({ ...usual, solidMmS: Math.min(usual.solidMmS, speedOf(n)) }));
    const deckOf = bands.map(({ firstLayer, askedToMm }) =>
      Math.max(firstLayer, deckFirstLayer(askedToMm, tops, layerHeightMm)),
    );
    return (layer) => {
      const band = bands.findIndex(({ lastLayer }, i) => layer >= deckOf[i] && layer <= lastLayer);
      return band < 0 ? usual : [first, ...further][Math.min(layer - deckOf[band], DECK_LAYERS - 1)];
    };
  },
  spread({ followed, bands, tops, fixed, options, layerHeightMm }) {
    const count = tops.length;
    const column = (key: SettingKey) => columnsOf(followed, key, count);
    const coolLayers = numberOption(options, "coolLayers");
    // Only what hangs over air is read; the posts are there to hold it.
    const judged = (followed.judged = new Uint8Array(count));
    bands.forEach((band, index) => {
      if (band.lastLayer < band.firstLayer) return;
      const deck = Math.max(band.firstLayer, deckFirstLayer(band.askedToMm, tops, layerHeightMm));
      const set = (key: SettingKey, value: number | undefined, from: number, to: number) => {
        if (value === undefined || to < from) return;
        const { values, who } = column(key);
        values.fill(value, from, to + 1);
        who.fill(index, from, to + 1);
      };
      const over = band.settings;
      const cooled = Math.max(band.firstLayer, deck - coolLayers);
      set("nozzleTemperature", fixed.nozzleTemperature, band.firstLayer, cooled - 1);
      set("nozzleTemperature", over.nozzleTemperature, cooled, deck - 1);
      set("fan", fixed.fan, band.firstLayer, deck - 1);
      set("flowFactor", fixed.flowFactor ?? 100, band.firstLayer, deck - 1);
      // Posts keep their usual speed; a column that says nothing there leaves it alone.
      if (over.printSpeed !== undefined) column("printSpeed").values.fill(NaN, band.firstLayer, deck);
      for (let layer = deck; layer <= band.lastLayer; layer++) {
        judged[layer] = 1;
        const n = Math.min(layer - deck, DECK_LAYERS - 1) + 1;
        const warm = over.nozzleTemperature ?? fixed.nozzleTemperature;
        if (warm !== undefined) set("nozzleTemperature", warm + numberOption(options, `warmer${n}`), layer, layer);
        set("fan", over.fan ?? numberOption(options, `fan${n}`), layer, layer);
        set("flowFactor", over.flowFactor ?? numberOption(options, `flow${n}`), layer, layer);
        if (over.printSpeed !== undefined) set("printSpeed", over.printSpeed, layer, layer);
      }
    });
  },
};
