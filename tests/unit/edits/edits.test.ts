import fc from "fast-check";
import { Edit, editsSchema } from "@/core/edits";
import { spliceSet } from "@/core/edits/splices/gather";
import { SpliceSet } from "@/core/edits/splices/packed";
import { Splice } from "@/core/edits/splices/splice";
import { Splicer } from "@/core/edits/splices/splicer";
import { readProgram } from "@/core/gcode/read";
import { comparePlan, settingsByLayer } from "@/core/heightplan/proof";
import { ladle, printers } from "../helpers/demo";
import { edited, Edited, tryEdits } from "../helpers/edits";
import { squareTube } from "../helpers/programs";

const edit = edited;
const tryEdit = tryEdits;
/** What the whole stack wants of the first tool. */
const plannedOf = ({ planned }: Pick<Edited, "planned">) => planned[0]?.planned ?? {};

const plan = (...steps: [number, number, number?][]): Edit => ({
  kind: "height-plan",
  changes: steps.map(([heightMm, nozzleTemperature, until]) => ({
    from: { heightMm },
    ...(until === undefined ? {} : { until: { heightMm: until } }),
    settings: { nozzleTemperature },
  })),
});

const added = (before: string, after: string) => {
  const rest = before.split("\n");
  return after.split("\n").filter((line) => {
    if (rest[0] !== line) return true;
    rest.shift();
    return false;
  });
};

describe("a height plan on an opened file", () => {
  const tube = squareTube({ layers: 30, opens: (i) => `; deck ${i}` });

  test("lines stand where their layers open, with the comment to find them by", () => {
    const { after, edits } = edit(tube, [plan([2, 205], [4, 200])]);
    expect(added(tube, after)).toEqual([
      "M104 S205 ; cuchara: band 1/2 nozzle 205 from 2 mm",
      "M104 S200 ; cuchara: band 2/2 nozzle 200 from 4 mm",
    ]);
    expect(after).toContain("; deck 10\nM104 S205");
    expect(edits).toEqual([
      {
        kind: "height-plan",
        changedLines: 2,
        places: [
          [10, 10],
          [20, 20],
        ],
      },
    ]);
  });

  test("the proof of the edited file equals the plan", () => {
    const { after, ...said } = edit(tube, [plan([1, 215], [2, 205, 3.5], [4, 200])]);
    const tables = readProgram(after);
    expect(comparePlan(tables.layers, settingsByLayer(tables).byLayer, plannedOf(said), ladle)).toEqual([]);
  });

  test("after an end the file's own value returns", () => {
    const { after } = edit(tube, [plan([2, 205, 4])]);
    expect(after).toContain("M104 S210 ; cuchara: band 1/1 ends, nozzle back to 210 from 4 mm");
  });

  test("a file that never says the value has nothing to return to, and that is said", () => {
    const { after, findings } = edit(squareTube({ layers: 20, start: ["G28"] }), [plan([1, 205, 2])]);
    expect(findings.map(({ check }) => check)).toContain("no-value-before");
    expect(after).not.toContain("ends");
  });

  test("the file's own line ends are used", () => {
    const crlf = squareTube({ layers: 10, opens: (i) => `; deck ${i}`, lineEnd: "\r\n" });
    const { after } = edit(crlf, [plan([1, 205])]);
    expect(after.replace(/\r\n/g, "")).not.toContain("\n");
    expect(after).toContain("from 1 mm\r\n");
  });

  test("the file's own changes where the plan holds are pointed out, and can be taken out", () => {
    const own = squareTube({ layers: 30, opens: (i) => `; deck ${i}`, extra: (i) => (i === 15 ? ["M104 S190"] : []) });
    const first = edit(own, [plan([2, 205])]);
    const finding = first.findings.find(({ check }) => check === "foreign-change")!;
    expect(finding.message).toMatch(/overrides your plan/);
    const second = edit(own, [finding.mend!.edit as Edit, plan([2, 205])]);
    expect(second.findings).toEqual([]);
    const tables = readProgram(second.after);
    expect(comparePlan(tables.layers, settingsByLayer(tables).byLayer, plannedOf(second), ladle)).toEqual([]);
    const unmended = readProgram(first.after);
    expect(comparePlan(unmended.layers, settingsByLayer(unmended).byLayer, plannedOf(first), ladle)).toHaveLength(15);
  });

  test("what lies above the piece is said", () => {
    const { findings, after } = edit(tube, [plan([2, 205], [80, 200])]);
    expect(findings[0]).toMatchObject({ check: "beyond-piece", where: "change 2" });
    expect(added(tube, after)).toHaveLength(1);
  });

  test("a fan without duty refuses what it cannot do, with the field", () => {
    const kettle = printers.find(({ dialect }) => dialect === "valve")!;
    const changes = (fan: number): Edit[] => [
      { kind: "height-plan", changes: [{ from: { heightMm: 1 }, settings: { fan } }] },
    ];
    expect(tryEdit(tube, changes(50), kettle)).toMatchObject({
      field: "0.changes.0.settings.fan",
      message: expect.stringMatching(/only on or off/),
    });
    expect(edit(tube, changes(100), kettle).after).toContain("M126 ; cuchara");
  });

  test("a change that sets nothing is refused", () => {
    const refusal = tryEdit(tube, [{ kind: "height-plan", changes: [{ from: { heightMm: 1 }, settings: {} }] }]);
    expect(refusal).toMatchObject({ ok: false, message: expect.stringMatching(/sets nothing/) });
  });

  test("weaving into any program leaves all other lines identical", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 40 }),
        fc.constantFrom("\n", "\r\n"),
        fc.boolean(),
        fc.integer({ min: 10, max: 60 }),
        fc.array(fc.tuple(fc.integer({ min: 0, max: 100 }), fc.integer({ min: 180, max: 250 })), {
          minLength: 1,
          maxLength: 12,
        }),
        fc.array(fc.string({ maxLength: 30 }), { maxLength: 4 }),
        (layers, lineEnd, marked, layerHundredths, steps, noise) => {
          const text = squareTube({
            layers,
            lineEnd,
            layerMm: layerHundredths / 100,
            ...(marked ? { opens: (i: number) => `;${i} deck` } : {}),
            extra: (i) => noise.filter((_, n) => n % layers === i).map((line) => `; ${line.replace(/[\r\n]/g, " ")}`),
          });
          const { after } = edit(text, [
            plan(...steps.map(([height, value]): [number, number] => [height / 10, value])),
          ]);
          const kept = after.split(lineEnd).filter((line) => !line.includes("cuchara: band"));
          expect(kept.join(lineEnd)).toBe(text);
        },
      ),
      { numRuns: 120 },
    );
  });

  test("and taking it out again gives the file back, byte for byte", () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 40 }), fc.integer({ min: 1, max: 30 }), (layers, tenths) => {
        const text = squareTube({ layers, opens: (i) => `; deck ${i}` });
        const { after } = edit(text, [plan([tenths / 10, 200], [tenths / 5, 195, tenths / 4])]);
        expect(edit(after, [{ kind: "lift-out", what: "cuchara" }]).after).toBe(text);
      }),
      { numRuns: 60 },
    );
  });
});

describe("lifting lines out", () => {
  test("an earlier plan can be replaced by another in one go", () => {
    const tube = squareTube({ layers: 30, opens: (i) => `; deck ${i}` });
    const first = edit(tube, [plan([2, 205], [4, 200])]).after;
    const { after, edits } = edit(first, [{ kind: "lift-out", what: "cuchara" }, plan([3, 195])]);
    expect(edits.map(({ changedLines }) => changedLines)).toEqual([2, 1]);
    expect(after).toBe(edit(tube, [plan([3, 195])]).after);
  });

  test("only changes inside the print are foreign; start and end stay", () => {
    const own = squareTube({ layers: 12, extra: (i) => (i === 6 ? ["M104 S190", "M140 S50", "M106 S80"] : []) });
    const { after } = edit(own, [{ kind: "lift-out", what: "foreign" }]);
    expect(own.split("\n").filter((line) => !after.split("\n").includes(line))).toEqual(["M104 S190", "M140 S50"]);
    expect(after).toContain("M109 S210");
    expect(after).toContain("M104 S0");
    expect(after).toContain("M106 S80");
  });

  test("nothing there is a note, not an error", () => {
    const { findings, after } = edit(squareTube({ layers: 4 }), [{ kind: "lift-out", what: "cuchara" }]);
    expect(findings).toMatchObject([{ check: "nothing-to-lift", severity: "note" }]);
    expect(after).toBe(squareTube({ layers: 4 }));
  });
});

const sorted = (splices: Splice[]) => [...splices].sort((a, b) => a.atByte - b.atByte || a.removeBytes - b.removeBytes);

function setOf(splices: Splice[]): SpliceSet {
  const set = spliceSet(splices);
  if (!set.ok) throw new Error(set.message);
  return set.value;
}

describe("splices", () => {
  test("chunks of any size give the same bytes", () => {
    fc.assert(
      fc.property(
        fc.uint8Array({ minLength: 1, maxLength: 200 }),
        fc.array(fc.tuple(fc.nat(199), fc.integer({ min: 0, max: 12 }), fc.string({ maxLength: 5 })), { maxLength: 8 }),
        fc.integer({ min: 1, max: 60 }),
        (bytes, raw, size) => {
          let free = 0;
          const splices: Splice[] = sorted(
            raw.map(([atByte, removeBytes, insert]) => ({
              atByte: Math.min(atByte, bytes.length),
              removeBytes,
              insert,
              line: 0,
              removeLines: 0,
              by: "test",
            })),
          ).flatMap((splice) => {
            if (splice.atByte < free) return [];
            const removeBytes = Math.min(splice.removeBytes, bytes.length - splice.atByte);
            free = splice.atByte + removeBytes;
            return [{ ...splice, removeBytes }];
          });
          // Worked out the simple way, from the end to the start.
          let expected = Buffer.from(bytes);
          for (const { atByte, removeBytes, insert } of [...splices].reverse()) {
            expected = Buffer.concat([
              expected.subarray(0, atByte),
              Buffer.from(insert),
              expected.subarray(atByte + removeBytes),
            ]);
          }
          const splicer = new Splicer(setOf(splices));
          const pieces: Uint8Array[] = [];
          for (let at = 0; at < bytes.length; at += size) pieces.push(...splicer.push(bytes.slice(at, at + size)));
          pieces.push(...splicer.end());
          expect(Buffer.concat(pieces).equals(expected)).toBe(true);
        },
      ),
    );
  });
});

test.each([
  [{}, /list of edits/],
  [[{ kind: "paint" }], /kind is one of/],
  [[null], /kind is one of/],
  [[{ kind: "lift-out", what: "all" }], /cuchara or foreign/],
  [[{ kind: "height-plan", changes: [{ from: {}, settings: {} }] }], /Say where/],
  [new Array(51).fill({ kind: "lift-out", what: "cuchara" }), /At most 50/],
])("%# is no stack of edits", (edits, sentence) => {
  const parsed = editsSchema.safeParse(edits);
  expect(parsed.error?.issues.map(({ message }) => message).join()).toMatch(sentence);
});
