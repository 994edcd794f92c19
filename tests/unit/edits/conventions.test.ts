/** Every edit on files of twelve conventions: what it must not touch stays, what it was asked for is there, and off is as though it never was. */
import fc from "fast-check";
import { Edit, editsSchema } from "@/core/edits";
import { splicesIn } from "@/core/edits/splices/packed";
import { applySplices } from "@/core/edits/splices/splicer";
import { readProgram } from "@/core/gcode/read";
import { Printer } from "@/core/shelf/printer";
import { Convention, conventions, pieceText } from "../helpers/conventions";
import { ladle } from "../helpers/demo";
import { editSamples, SAMPLE_LAYERS, twoTools, wide } from "../helpers/edit-samples";
import { edited, proved, tryEdits } from "../helpers/edits";
import { bytesOf, textOf } from "../helpers/programs";

const printerFor = (form: Convention): Printer => (form.tools ? twoTools : ladle);

const LAYERS = SAMPLE_LAYERS;
/** Nothing of these pieces is laid over air, and a plan may rewrite within lines. */
const { bridges: _bridges, plan: _plan, ...kinds } = editSamples;

/** What cannot be done with a convention is refused with a sentence that says why. */
const refusals: [kind: RegExp, form: RegExp, message: RegExp][] = [
  [/outer-walls/, /spiral/, /closed, level ring/],
  [/inside as one/, /spiral|variable/, /same inside|thick/],
  [/scale-speed/, /spiral/, /No line of that kind/],
];

const parsed = (edit: object): Edit[] => editsSchema.parse([JSON.parse(JSON.stringify(edit))]);

describe.each(conventions.map((form) => [form.name, form] as const))("%s", (_, form) => {
  const text = pieceText(form, { layers: LAYERS, halfAt: (z) => 8 - z * 0.3 });

  test.each(Object.entries(kinds))("%s", (name, samples) => {
    const printer = name === "inside as one" ? wide(printerFor(form)) : printerFor(form);
    fc.assert(
      fc.property(samples, (sample) => {
        const edits = parsed(sample);
        const tried = tryEdits(text, edits, printer);
        if (!tried.ok) {
          const known = refusals.find(([kind, at]) => kind.test(name) && at.test(form.name));
          if (!known) throw new Error(tried.message);
          expect(tried.message).toMatch(known[2]);
          return;
        }
        const { splices } = tried.value;
        // The same stack gives the same bytes, and off it is as though it never was.
        expect(edited(text, edits, printer).after).toBe(textOf(applySplices(bytesOf(text), splices)));
        expect(edited(text, [{ ...edits[0], off: true }], printer).after).toBe(text);
        expect(proved(text, edits, printer).wrong).toEqual([]);
        // Nothing outside the scope goes or changes, and line ends stay.
        const { fromLayer, toLayer } = { ...sample, ...("scope" in sample ? (sample.scope as object) : {}) } as {
          fromLayer?: number;
          toLayer?: number;
        };
        for (const { removeBytes, layer, insert } of splicesIn(splices)) {
          if (removeBytes > 0 && fromLayer !== undefined) {
            expect(layer! + 1).toBeGreaterThanOrEqual(fromLayer);
            expect(layer! + 1).toBeLessThanOrEqual(toLayer!);
          }
          if (insert !== "") expect(insert.endsWith(form.end)).toBe(true);
          if (form.end === "\r\n") expect(insert.replaceAll("\r\n", "")).not.toContain("\n");
        }
      }),
      { numRuns: 3 },
    );
  });
});

/** Feed in force at the first wall line of each layer, by a reader of its own: F words in their order. */
function feedsByLayer(text: string): number[] {
  const feeds: number[] = [];
  let feed = 0;
  let z = 0;
  for (const line of text.split(/\r?\n/)) {
    const code = line.split(/[;(]/)[0];
    feed = Number(/ F([\d.]+)/.exec(code)?.[1] ?? feed);
    z = Number(/ Z([\d.]+)/.exec(code)?.[1] ?? z);
    if (/^G1 X.*E/.test(code)) feeds[Math.round(z * 5) - 1] ??= feed;
  }
  return feeds;
}

test("half speed in layers 3 to 5: the feeds are halved there and nowhere else", () => {
  const form = conventions[0];
  const text = pieceText(form);
  const { after } = edited(text, parsed({ kind: "scale-speed", percent: 50, fromLayer: 3, toLayer: 5 }));
  expect(feedsByLayer(text)).toEqual(Array<number>(8).fill(1800));
  expect(feedsByLayer(after)).toEqual([1800, 1800, 900, 900, 900, 1800, 1800, 1800]);
});

test("flow by factors: M221 says it where the kind begins, and says 100 where it ends", () => {
  const text = pieceText(conventions[2]);
  const lines = ["outer-wall"];
  const { after } = edited(
    text,
    parsed({ kind: "scale-flow", percent: 90, lines, by: "factors", fromLayer: 2, toLayer: 2 }),
  );
  expect(after.match(/M221 S\d+/g)).toEqual(["M221 S90", "M221 S100"]);
  expect(after.replace(/M221 S\d+\n/g, "")).toBe(text);
});

test("the kind of line is what the comments say: flow of the fill alone, filament by hand", () => {
  const text = pieceText(conventions[2]);
  const { after } = edited(text, parsed({ kind: "scale-flow", percent: 80, lines: ["sparse"] }));
  // Filament behind each fill of the original: named anew, so that the walls behind it go on as they were.
  const walls = (all: string) => all.split("\n").filter((line) => /^G1 X.*F1800/.test(line)).length;
  expect(walls(after)).toBe(walls(text));
  const sum = (all: string) => readProgram(all).filamentPerToolMm[0];
  const fill = (all: string) => {
    let [mm, e, isFill] = [0, 0, false];
    for (const line of all.split("\n")) {
      if (line.startsWith(";")) isFill = line.includes("fill");
      const to = / E(-?[\d.]+)/.exec(line);
      if (to && /^G1 X/.test(line) && isFill) mm += Number(to[1]) - e;
      if (to) e = Number(to[1]);
    }
    return mm;
  };
  expect(fill(after)).toBeCloseTo(0.8 * fill(text), 2);
  expect(sum(after)).toBeCloseTo(sum(text) - 0.2 * fill(text), 2);
});

test("what the hot end does not melt is said with its line", () => {
  const { findings } = edited(pieceText(conventions[0]), parsed({ kind: "scale-speed", percent: 500 }));
  expect(findings.find(({ check }) => check === "beyond-flow")?.message).toMatch(/mm³\/s would be asked for/);
});

test("start lines are the printer's own, filled in with the file's heats; the print behind them is as it was", () => {
  for (const form of [conventions[1], conventions[4]]) {
    const text = pieceText(form);
    const { after } = edited(text, parsed({ kind: "start-end", start: true }));
    const lines = after.split(form.end);
    expect(lines).toContain(`; cuchara: start lines of ${ladle.name}`);
    expect(lines).toContain("M109 S210");
    const opening = form.opens!(1);
    expect(after.slice(after.indexOf(opening))).toBe(text.slice(text.indexOf(opening)));
  }
});
