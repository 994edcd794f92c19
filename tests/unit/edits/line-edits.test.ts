/** Edits of single lines: each does what it says within its scope, and nothing outside it changes by a byte. */
import fc from "fast-check";
import { checkFile } from "@/core/checks/file";
import { applyEdits, Edit, editsSchema } from "@/core/edits";
import { onScreen } from "@/core/edits/kinds/display";
import { linesOf, searchLines } from "@/core/edits/look";
import { changedLines } from "@/core/edits/splices/windows";
import { readChunks, seeFile } from "@/core/edits/see-file";
import { readProgram } from "@/core/gcode/read";
import { limitsFor } from "@/core/motion/limits";
import { reportOf } from "@/core/report/report";
import { headOf } from "@/core/shelf/printer";
import { ladle, printers } from "../helpers/demo";
import { edited, tryEdits } from "../helpers/edits";
import { bytesOf } from "../helpers/programs";

/** A square tube by conventions that files have. */
interface Form {
  end: "\n" | "\r\n";
  comment: (layer: number) => string;
  absoluteE: boolean;
  inches?: boolean;
}

const LAYERS = 8;

function tube({ end, comment, absoluteE, inches = false }: Form): string {
  const unit = inches ? 25.4 : 1;
  const say = (mm: number) => (mm / unit).toFixed(inches ? 5 : 3);
  const lines = [
    "M140 S60",
    "M104 S210",
    "M109 S210",
    "M190 S60",
    "G28",
    inches ? "G20" : "G21",
    "G90",
    absoluteE ? "M82" : "M83",
    "G92 E0",
  ];
  let e = 0;
  for (let i = 1; i <= LAYERS; i++) {
    const marker = comment(i);
    if (marker) lines.push(marker);
    lines.push(`G0 X${say(80)} Y${say(80)} Z${say(i * 0.2)} F6000`);
    lines.push("M117 busy");
    if (i === 2) lines.push("M106 S255");
    if (i === 5) lines.push("M109 R205 ; second heat", "M106 S128");
    for (const [x, y] of [
      [100, 80],
      [100, 100],
      [80, 100],
      [80, 80],
    ]) {
      e += 0.66;
      lines.push(`G1 X${say(x)} Y${say(y)} E${absoluteE ? say(e) : say(0.66)} F1800`);
    }
  }
  lines.push("M107", "M104 S0", "M140 S0", "G0 X0 Y0", "M84");
  return lines.join(end) + end;
}

const forms: Form[] = [
  { end: "\n", comment: (i) => `; layer ${i}`, absoluteE: false },
  { end: "\r\n", comment: (i) => `;DECK ${i - 1}`, absoluteE: true },
  { end: "\n", comment: () => "", absoluteE: false },
  { end: "\n", comment: (i) => `(floor ${i})`, absoluteE: true, inches: true },
];

const named = forms.map((form, i): [string, Form] => [`form ${i + 1}`, form]);
const one = (edit: unknown): Edit[] => editsSchema.parse([edit]);

/** The fan in force while each layer is laid, by a reader of its own: M106 and M107 in the order of the lines. */
function fanAtLayers(text: string): number[] {
  const values: number[] = [];
  let fan = 0;
  let z = 0;
  for (const line of text.split(/\r?\n/)) {
    const code = line.split(/[;(]/)[0];
    if (/^M107/.test(code)) fan = 0;
    const set = /^M106 S(\d+)/.exec(code);
    if (set) fan = Number(set[1]);
    const height = / Z([\d.]+)/.exec(code);
    if (height) z = Number(height[1]);
    if (/^G1 .*E/.test(code) && z > 0) values[Math.round(z * (z < 0.1 ? 25.4 : 1) * 5) - 1] ??= fan;
  }
  return values;
}

test.each(named)(
  "%s: the fan is off between two layers, runs on behind them, and keeps the old lines as comments",
  (_, form) => {
    const text = tube(form);
    const { after, mismatches } = edited(
      text,
      one({ kind: "fan", act: "off", fromLayer: 3, toLayer: 6, countsFrom: 1 }),
    );
    if (!form.inches) expect(fanAtLayers(after)).toEqual([0, 255, 0, 0, 0, 0, 128, 128]);
    expect(after).toContain("; cuchara: was: M106 S128");
    expect(mismatches).toEqual([]);
    // Everything but the fan's own lines stands as it stood.
    const rest = (all: string) => all.split(form.end).filter((line) => !/M10[67]/.test(line));
    expect(rest(after)).toEqual(rest(text));
  },
);

test.each([
  [{ act: "scale", percent: 50 }, [0, 128, 128, 128, 64, 64, 64, 64]],
  [{ act: "cap", percent: 30 }, [0, 77, 77, 77, 77, 77, 77, 77]],
  [{ act: "floor", percent: 80 }, [0, 255, 255, 255, 204, 204, 204, 204]],
])("the fan %j", (change, wanted) => {
  expect(fanAtLayers(edited(tube(forms[0]), one({ kind: "fan", ...change })).after)).toEqual(wanted);
});

test.each(named)(
  "%s: an edit that is off, and every edit taken away again, leave the file byte for byte",
  (_, form) => {
    const text = tube(form);
    expect(edited(text, one({ kind: "fan", act: "off", off: true })).after).toBe(text);
    expect(edited(text, []).after).toBe(text);
    const stack = [...one({ kind: "fan", act: "off" }), ...one({ kind: "waits" })];
    expect(edited(text, stack).after).toBe(edited(text, stack).after);
  },
);

test.each(named)("%s: waits inside the print only set, those at the start come in order", (_, form) => {
  const { after } = edited(tube(form), one({ kind: "waits", inside: true, order: true }));
  const lines = after.split(form.end).filter((line) => /^M1(09|90|04 S205)/.test(line));
  expect(lines).toEqual(["M190 S60", "M109 S210", "M104 S205 ; second heat"]);
});

test("a command with a condition is found in its scope only, its word is scaled, and a skipped line stays", () => {
  const text = tube(forms[0]);
  const find = { command: "M106", where: [{ word: "S", is: ">", value: 100 }] };
  const scaled = edited(
    text,
    one({ kind: "find", find, scope: { fromLayer: 4 }, act: { scaleWord: { word: "S", by: 0.5 } } }),
  ).after;
  expect(scaled.match(/M106 S\d+/g)).toEqual(["M106 S255", "M106 S64"]);
  // A duty stays whole, a place does not have to.
  const tenth = edited(text, one({ kind: "find", find, act: { scaleWord: { word: "S", by: 0.9 } } })).after;
  expect(tenth.match(/M106 S[\d.]+/g)).toEqual(["M106 S230", "M106 S115"]);
  const places = edited(
    text,
    one({ kind: "find", find: { command: "G1" }, act: { shiftWord: { word: "X", by: 0.125 } } }),
  ).after;
  expect(places).toContain("G1 X100.125 Y80.000");
  const line = text.split("\n").indexOf("M106 S128") + 1;
  const skipped = edited(text, one({ kind: "find", find, act: { delete: true }, skip: [line] })).after;
  expect(skipped.match(/M106 S\d+/g)).toEqual(["M106 S128"]);
});

test("texts are replaced in comments alone, lines kept as comments, put before and after; a dollar sign in a text is a dollar sign", () => {
  const text = tube(forms[0]);
  const inComments = edited(
    text,
    one({ kind: "find", find: { text: "layer" }, scope: { in: "comments" }, act: { replaceWith: "$& deck" } }),
  ).after;
  expect(inComments).toContain("; $& deck 3");
  expect(inComments.replaceAll("$& deck", "layer")).toBe(text);
  const left = edited(
    text,
    one({ kind: "find", find: { text: "M117" }, act: { comment: "too loud", after: ["G4 P1"] } }),
  ).after;
  expect(left.match(/; cuchara: too loud: M117 busy\nG4 P1/g)).toHaveLength(LAYERS);
  const start = edited(
    text,
    one({ kind: "find", find: { regexp: "^M1(0|4)" }, scope: { part: "start" }, act: { comment: "off" } }),
  ).after;
  expect(start.match(/; cuchara: off: M/g)).toHaveLength(3);
});

test("a broken expression is a sentence at its field", () => {
  const refused = tryEdits(tube(forms[0]), one({ kind: "find", find: { regexp: "(" }, act: { delete: true } }));
  expect(refused).toMatchObject({
    ok: false,
    field: "0.find.regexp",
    message: expect.stringContaining("no expression"),
  });
});

test.each(named)(
  "%s: a text stands on the screen at every layer once, counted as wished, and those of the file are gone",
  (_, form) => {
    const { after, tables } = edited(
      tube(form),
      one({ kind: "display", text: "{{layer}}/{{layers}} at {{height}}", countsFrom: 0, progress: true }),
    );
    const shown = after.split(form.end).filter((line) => line.startsWith("M117"));
    expect(shown).toHaveLength(LAYERS);
    expect(shown[0]).toBe("M117 0/7 at 0.2");
    expect(shown.at(-1)).toBe("M117 7/7 at 1.6");
    expect(after.match(/^M73 P\d+ R\d+/gm)).toHaveLength(LAYERS);
    expect(tables.layers).toHaveLength(LAYERS);
  },
);

test("a text is mended to what the screen has: a colon it stumbles over, letters it lacks, its length", () => {
  expect(onScreen("Höhe: 1.2 mm", { screenLetters: 0, screenLacks: ":" })).toBe("Hohe. 1.2 mm");
  expect(onScreen("abcdefgh", { screenLetters: 5, screenLacks: "" })).toBe("abcde");
  expect(onScreen("210 °C ✓", { screenLetters: 0, screenLacks: "" })).toBe("210 C ?");
});

test.each(named)("%s: a pause leaves the machine where and how it was", (_, form) => {
  const text = tube(form);
  const { after, tables } = edited(
    text,
    one({ kind: "pause", at: { layer: 5, countsFrom: 1 }, park: { x: 10, y: 200 }, message: "put the nut in" }),
  );
  expect(after).toContain("M0 put the nut in");
  // The same lines laid in the same places, the same filament, the same layers.
  const before = readProgram(bytesOf(text));
  expect(tables.layers.map(({ zMm }) => zMm)).toEqual(before.layers.map(({ zMm }) => zMm));
  expect(tables.endState.x).toBeCloseTo(before.endState.x, 3);
  expect(tables.endState.e).toBeCloseTo(before.endState.e, 3);
  expect(tables.filamentPerToolMm[0]).toBeCloseTo(before.filamentPerToolMm[0], 2);
  const behind = after.slice(after.indexOf("; cuchara: goes on"));
  const laid = text.slice(text.indexOf(behind.slice(behind.indexOf(form.end) + form.end.length)));
  expect(behind.endsWith(laid)).toBe(true);
});

test("a pause before the first layer, outside the bed or above the piece is refused at its field", () => {
  const why = (edit: object) => tryEdits(tube(forms[0]), one({ kind: "pause", ...edit }));
  expect(why({ at: { layer: 1, countsFrom: 1 } })).toMatchObject({ ok: false, field: "0.at" });
  expect(why({ at: { heightMm: 40 } })).toMatchObject({ ok: false, field: "0.at" });
  expect(why({ at: { heightMm: 1 }, park: { x: 900, y: 0 } })).toMatchObject({ ok: false, field: "0.park" });
});

test.each(named)(
  "%s: the print stands elsewhere, as far as it was told, and start and end stand as they stood",
  (_, form) => {
    const text = tube(form);
    const { tables, after } = edited(text, one({ kind: "move", byMm: { x: 12.5, y: -30, z: 0 } }));
    const before = readProgram(bytesOf(text));
    for (const [i, layer] of tables.layers.entries()) expect(layer.zMm).toBeCloseTo(before.layers[i].zMm, 4);
    const { moves } = tables;
    let seen = 0;
    for (let i = 0; i < moves.count; i++) {
      if (!(before.moves.filamentMm[i] > 0)) continue;
      seen++;
      expect(moves.x[i] - before.moves.x[i]).toBeCloseTo(12.5, 2);
      expect(moves.y[i] - before.moves.y[i]).toBeCloseTo(-30, 2);
      expect(moves.filamentMm[i]).toBeCloseTo(before.moves.filamentMm[i], 4);
    }
    expect(seen).toBe(LAYERS * 4);
    expect(after.endsWith(["M107", "M104 S0", "M140 S0", "G0 X0 Y0", "M84", ""].join(form.end))).toBe(true);
  },
);

test("a print is moved to the middle of the bed, and never off it", () => {
  const { tables } = edited(tube(forms[0]), one({ kind: "move", centre: true }));
  const xs = Array.from({ length: tables.moves.count }, (_, i) =>
    tables.moves.filamentMm[i] > 0 ? tables.moves.x[i] : NaN,
  ).filter((x) => !Number.isNaN(x));
  expect((Math.min(...xs) + Math.max(...xs)) / 2).toBeCloseTo(110, 2);
  expect(tryEdits(tube(forms[0]), one({ kind: "move", byMm: { x: 500, y: 0, z: 0 } }))).toMatchObject({
    ok: false,
    field: "0.byMm",
  });
});

test("edits see what those before them have made: a fan that was scaled is capped", () => {
  const stack = [...one({ kind: "fan", act: "scale", percent: 50 }), ...one({ kind: "fan", act: "cap", percent: 30 })];
  expect(fanAtLayers(edited(tube(forms[0]), stack).after)).toEqual([0, 77, 77, 77, 64, 64, 64, 64]);
});

test("random scopes: lines outside never change, whatever is done to those inside", () => {
  const text = tube(forms[0]);
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: LAYERS }),
      fc.integer({ min: 0, max: LAYERS }),
      fc.constantFrom("off", "cap", "scale"),
      (from, more, act) => {
        const to = Math.min(LAYERS, from + more);
        const { after } = edited(text, one({ kind: "fan", act, percent: 20, fromLayer: from, toLayer: to }));
        const layersOf = (all: string) => all.split(/(?=; layer )/);
        const [before, changed] = [layersOf(text), layersOf(after)];
        for (let layer = 1; layer <= LAYERS; layer++) {
          if (layer >= from && layer <= to + 1) continue;
          expect(changed[layer]).toBe(before[layer]);
        }
      },
    ),
    { numRuns: 60 },
  );
});

test.each([
  [{ kind: "fan", act: "off", fromLayer: 3, fromMm: 1 }, "0.fromMm"],
  [{ kind: "fan", act: "off", fromMm: 90 }, "0.fromMm"],
  [{ kind: "fan", act: "off", fromLayer: 6, toLayer: 2 }, "0.toLayer"],
  [{ kind: "fan", act: "cap" }, "0.percent"],
  [{ kind: "display", text: "{{weather}}" }, "0.text"],
])("%j is refused at its field", (edit, field) => {
  expect(tryEdits(tube(forms[0]), one(edit))).toMatchObject({ ok: false, field });
});

test("windows, searches and previews show the lines as they stand, whatever chunks they come in", () => {
  const text = tube(forms[1]);
  const lines = text.trimEnd().split("\r\n");
  for (const size of [1, 7, 100_000]) {
    const bytes = bytesOf(text);
    const chunks = () =>
      Array.from({ length: Math.ceil(bytes.length / size) }, (_, i) => bytes.subarray(i * size, (i + 1) * size));
    expect(linesOf(chunks(), 5, 4)).toEqual(lines.slice(5, 9));
    const { count, hits } = searchLines(chunks(), "m106", 1);
    expect(count).toBe(lines.filter((line) => line.includes("M106")).length);
    expect(hits).toEqual([{ line: lines.findIndex((line) => line.includes("M106")), text: "M106 S255" }]);
    const applied = tryEdits(
      text,
      one({ kind: "find", find: { command: "M106" }, act: { setWord: { word: "S", value: 9 } } }),
    );
    if (!applied.ok) throw new Error(applied.message);
    expect(changedLines(chunks, applied.value.splices, 1, 1)).toEqual([
      { line: lines.indexOf("M106 S128"), layer: 4, before: ["M106 S128"], after: ["M106 S9"] },
    ]);
  }
});

test("every fan of a file is off between two layers, by its number where the file names it; an on-off fan in its own words", () => {
  const two = tube(forms[0]).replace("M106 S255", "M106 S255\nM106 P1 S200").replace("M107", "M107\nM107 P1");
  const { after } = edited(two, one({ kind: "fan", act: "off", fromLayer: 4, toLayer: 6 }));
  expect(after).toContain("M107 P1 ; cuchara: fan off from here");
  expect(after).toContain("M106 P1 S200 ; cuchara: fan back to its own");
  const second = edited(two, one({ kind: "fan", act: "cap", percent: 20, fan: 1 })).after;
  expect(second.match(/^M106 .*$/gm)).toEqual(["M106 S255", "M106 P1 S51", "M106 S128"]);
  const kettle = printers.find(({ dialect }) => dialect === "valve")!;
  const onOff = tube(forms[0]).replace("M106 S255", "M126").replace("M106 S128", "M126").replace("M107", "M127");
  const still = edited(onOff, one({ kind: "fan", act: "off", fromLayer: 4, toLayer: 6 }), kettle).after;
  expect(still.split("\n").filter((line) => /^M12[67]/.test(line))).toEqual([
    "M126",
    "M127 ; cuchara: fan off from here",
    "M127",
    "M126 ; cuchara: fan back to its own",
    "M127",
  ]);
});

test("a file whose lines carry checksums is refused rather than spoilt; letters that are no UTF-8 stay byte for byte", () => {
  const text = tube(forms[0]);
  // XOR of all bytes in front of the star (common practice, no source).
  const line = "N7 M106 S255";
  const sum = [...line].reduce((all, letter) => all ^ letter.charCodeAt(0), 0);
  const numbered = text.replace("M106 S255", `${line}*${sum}`);
  expect(tryEdits(numbered, one({ kind: "fan", act: "off" }))).toMatchObject({
    ok: false,
    message: expect.stringContaining("checksum"),
  });
  const latin = bytesOf(text.replace("M106 S255", "M106 S255 ; k~hl"));
  latin[latin.indexOf("~".charCodeAt(0))] = 0xfc;
  const chunks = () => [latin];
  const seen = seeFile(readChunks(chunks(), ladle), chunks, ladle);
  const applied = applyEdits(
    one({ kind: "find", find: { command: "M106" }, act: { delete: true } }),
    { original: seen, read: () => seen },
    ladle,
  );
  if (!applied.ok) throw new Error(applied.message);
  expect(applied.value.splices.count).toBe(1);
  expect(applied.value.findings[0]).toMatchObject({ check: "unreadable-lines" });
});

test("a change of half a million lines is a change like any other", () => {
  const many = 500_000;
  const text = tube(forms[0]).replace("; layer 2\n", `; layer 2\n${"M400\n".repeat(many)}`);
  const gone = edited(text, one({ kind: "find", find: { command: "M400" }, act: { delete: true } }));
  expect(gone.after === tube(forms[0])).toBe(true);
  expect(gone.edits[0].changedLines).toBe(many);
});

test("a print that counts from where the nozzle stands cannot be moved, and says so; a stop never lifts the head out of the printer", () => {
  const relative = tube(forms[0]).replace("G90", "G91");
  const first = relative.indexOf("G0 X80");
  const steps =
    relative.slice(0, first) +
    relative
      .slice(first)
      .replace(/Z[\d.]+/g, "Z0.2")
      .replace(/X\d+(\.\d+)? Y\d+(\.\d+)?/g, "X1 Y1");
  expect(tryEdits(steps, one({ kind: "move", byMm: { x: 5, y: 0, z: 0 } }))).toMatchObject({ ok: false });
  const tall = one({ kind: "pause", at: { layer: 5, countsFrom: 1 }, park: { x: 10, y: 10, liftMm: 200 } });
  const low = { ...ladle, buildHeightMm: 150 };
  expect(tryEdits(tube(forms[0]), tall, low)).toMatchObject({ ok: false, field: "0.park" });
});

test("a stop says on the screen what the screen can show", () => {
  const lacking = { ...ladle, screenLetters: 12, screenLacks: ":" };
  const { after } = edited(
    tube(forms[0]),
    one({ kind: "pause", at: { layer: 5, countsFrom: 1 }, message: "Nut: size M4, two of them" }),
    lacking,
  );
  expect(after).toContain("M117 Nut. size M4\n");
});

test("one endless line costs no more than its bytes to look through", () => {
  const chunk = new Uint8Array(1 << 20).fill(65);
  const many = function* () {
    for (let i = 0; i < 60; i++) yield chunk;
  };
  expect(linesOf(many(), 0, 5)[0]).toHaveLength(2000);
  expect(searchLines(many(), "AAA", 1).count).toBe(1);
});

test("single places of an edit are left alone by their lines, where its places do not depend on one another", () => {
  const text = tube(forms[0]);
  const fanLines = text.split("\n").flatMap((line, i) => (line.startsWith("M106") ? [i + 1] : []));
  const all = edited(text, one({ kind: "fan", act: "off", keepComments: true }));
  expect(fanAtLayers(all.after)).toEqual([0, 0, 0, 0, 0, 0, 0, 0]);
  const left = edited(text, one({ kind: "fan", act: "off", keepComments: true, skip: [fanLines[1]] }));
  expect(fanAtLayers(left.after)).toEqual([0, 0, 0, 0, 128, 128, 128, 128]);
  expect(left.mismatches).toEqual([]);
  expect(editsSchema.safeParse([{ kind: "fan", act: "off", skip: [0] }]).success).toBe(false);
  // Filament that is counted on from place to place cannot be left alone here and there.
  expect(editsSchema.safeParse([{ kind: "scale-flow", percent: 90, skip: [3] }]).success).toBe(false);
});

test.each([
  [{ kind: "bridges", cooler: 10, layers: [] }, "layers", "Say how the first layer over air is laid"],
  [{ kind: "bridges", cooler: 500, layers: [{ feedPercent: 50 }] }, "cooler", "At most 100 °C cooler"],
  [{ kind: "outer-walls" }, "passes", "Say in how many passes"],
  [{ kind: "outer-walls", passes: 1 }, "passes", "Two at least"],
  [{ kind: "scale-speed", percent: 5 }, "percent", "At least 10 %"],
  [{ kind: "scale-flow", percent: 90, lines: ["travel"] }, "lines", "A kind of line is one of"],
  [{ kind: "start-end" }, "start", "Say whether the start or the end lines are replaced"],
])("%j is refused at its field", (edit, field, message) => {
  const parsed = editsSchema.safeParse([edit]);
  expect(parsed.success).toBe(false);
  const issue = parsed.error!.issues[0];
  expect(issue.path.join(".")).toContain(field);
  expect(issue.message).toContain(message);
});

test("a print of more lines than could be changed before is moved, every one of its lines", () => {
  const many = 310_000;
  const row = (line: number, byMm: number) =>
    `G1 X${Number((20 + byMm + (line % 100) / 10).toFixed(1))} Y${line % 2 ? 5 : 9} E.1`;
  const text = (byMm: number) => {
    const rows = Array.from({ length: many }, (_, line) => row(line, byMm));
    return `M109 S210\nG28\nG90\nM83\nG1 X${5 + byMm} Y5 F6000\n${rows.join("\n")}\nM84\n`.replace("E.1", "Z.2 E.1");
  };
  const moved = edited(text(0), one({ kind: "move", byMm: { x: 1, y: 0, z: 0 } }));
  expect(moved.after === text(1)).toBe(true);
  expect(moved.edits[0].changedLines).toBe(many + 1);
});

test.each([
  [{ scaleWord: { word: "X", by: 1e308 } }, /1000 times/],
  [{ shiftWord: { word: "S", by: 1e30 } }, /10,000,000/],
  [{ setWord: { word: "F", value: -1e9 } }, /-10,000,000/],
])("%j is refused where it is typed", (act, sentence) => {
  const parsed = editsSchema.safeParse([{ kind: "find", find: { command: "G1" }, act }]);
  expect(parsed.error?.issues[0].message).toMatch(sentence);
});

test("a stack of edits that together make a value no printer can mean is refused, and no line says Infinity", () => {
  const scale = { kind: "find", find: { command: "G1" }, act: { scaleWord: { word: "X", by: 1000 } } };
  const tried = tryEdits(tube(forms[0]), editsSchema.parse([scale, scale, scale]));
  expect(tried).toMatchObject({ ok: false, message: expect.stringMatching(/no printer can mean/) as string });
});

test("a print turned backwards is stopped: its filament is pulled out along the moves, and nothing is laid", () => {
  const text = tube(forms[0]);
  const backwards = edited(
    text,
    one({ kind: "find", find: { command: "G1" }, act: { scaleWord: { word: "E", by: -1 } } }),
  ).after;
  const stops = (program: string) => {
    const { report } = reportOf(readProgram(bytesOf(program)), limitsFor(ladle), headOf(ladle));
    return checkFile(report, ladle).flatMap(({ check, severity }) => (severity === "stop" ? [check] : []));
  };
  expect(stops(text)).not.toEqual(expect.arrayContaining(["drawn-along"]));
  expect(stops(backwards)).toEqual(expect.arrayContaining(["drawn-along", "lays-nothing"]));
  // A wipe draws back over a few millimetres, and is fine.
  const wiped = text.replaceAll("M117 busy", "G1 X85.000 Y80.000 E-0.5 F1800\nG1 X80 Y80 E0.5");
  expect(stops(wiped)).not.toContain("drawn-along");
});

/** Several commands on a line, as NIST RS274/NGC Interpreter, version 3, 3.3.3 has them. */
describe("of several commands on a line", () => {
  const several = tube(forms[0]).replace("M106 S255", "G90 M106 S255 G4 S1 ; on").replace("G0 X80", "G90 G0 X80");
  const lineOf = (edit: object) =>
    edited(several, one(edit))
      .after.split("\n")
      .find((line) => line.includes("G4"));

  test.each([
    [{ setWord: { word: "S", value: 9 } }, "G90 M106 S9 G4 S1 ; on"],
    [{ setWord: { word: "P", value: 1 } }, "G90 M106 S255 P1 G4 S1 ; on"],
    [{ scaleWord: { word: "S", by: 0.2 } }, "G90 M106 S51 G4 S1 ; on"],
    [{ delete: true }, "G90 G4 S1 ; on"],
    [{ comment: "was" }, "G90 G4 S1 ; on"],
    [{ replaceWith: "M107" }, "G90 M107 G4 S1 ; on"],
  ])("one is found, and the others stay: %j", (act, line) => {
    expect(lineOf({ kind: "find", find: { command: "M106", where: [{ word: "S", is: "=", value: 255 }] }, act })).toBe(
      line,
    );
  });

  test("conditions ask the words of the command itself", () => {
    const waiting = { command: "G4", where: [{ word: "S", is: ">", value: 100 }] };
    expect(lineOf({ kind: "find", find: waiting, act: { delete: true } })).toContain("G4 S1");
  });

  test("a move behind another command is moved with the print", () => {
    expect(several).toContain("G90 G0 X80");
    const { after } = edited(several, one({ kind: "move", byMm: { x: 2, y: 0, z: 0 } }));
    expect(after).toContain("G90 G0 X82");
    expect(after).not.toContain("X80 ");
  });
});
