import fc from "fast-check";
import { compose } from "@/core/edits/splices/compose";
import { SpliceGatherer, spliceSet } from "@/core/edits/splices/gather";
import { noSplices, sameSplices, SpliceSet, splicesIn } from "@/core/edits/splices/packed";
import { Splice } from "@/core/edits/splices/splice";
import { applySplices, splicedChunks } from "@/core/edits/splices/splicer";
import { bytesOf, textOf } from "../helpers/programs";

const at = (atByte: number, removeBytes: number, insert: string, by = "plan"): Splice => ({
  atByte,
  removeBytes,
  removeLines: 0,
  insert,
  line: 0,
  by,
});

function setOf(splices: Splice[]): SpliceSet {
  const set = spliceSet(splices);
  if (!set.ok) throw new Error(set.message);
  return set.value;
}

/** Splices that fit a program of a length, none over another. */
const fitting = (length: number) =>
  fc
    .array(fc.tuple(fc.nat(length), fc.nat(6), fc.string({ maxLength: 4, unit: "grapheme-ascii" })), { maxLength: 8 })
    .map((raw) => {
      let free = 0;
      return raw
        .sort(([a], [b]) => a - b)
        .flatMap(([place, remove, insert]) => {
          const from = Math.max(place, free);
          if (from > length) return [];
          const removeBytes = Math.min(remove, length - from);
          free = from + removeBytes + (removeBytes > 0 ? 0 : 0);
          return [at(from, removeBytes, insert)];
        });
    });

describe("a splice set", () => {
  test("is sorted, insertions at one place before what goes there", () => {
    const set = setOf([at(9, 2, ""), at(3, 0, "b"), at(9, 0, "c"), at(3, 0, "d")]);
    expect([...splicesIn(set)].map(({ atByte, insert }) => `${atByte}${insert}`)).toEqual(["3b", "3d", "9c", "9"]);
  });

  test("is refused with both edits' names where two of them change the same bytes", () => {
    const refused = spliceSet([at(3, 5, "x"), at(6, 1, "", "lines taken out")]);
    expect(refused).toMatchObject({ ok: false, message: "“plan” and “lines taken out” both change line 1." });
    expect(spliceSet([at(3, 5, "x"), at(3, 5, "y")])).toMatchObject({ ok: false, message: /twice/ });
  });

  test("that would take more than may be kept is refused, and no more of it is held than that", () => {
    const gatherer = new SpliceGatherer(true, 100_000);
    for (let i = 0; i < 50_000; i++) gatherer.add(at(i, 0, "M117 anything\n"));
    expect(gatherer.finish()).toMatchObject({ ok: false, message: /More would change/ });
  });

  test("made for one program refuses a shorter one", () => {
    expect(() => applySplices(bytesOf("G28\n"), setOf([at(50, 3, "M104 S215\n")]))).toThrow("another program");
    expect(() => applySplices(bytesOf("G28\n"), setOf([at(2, 3, "")]))).toThrow("another program");
    expect(textOf(applySplices(bytesOf("G28\n"), setOf([at(4, 0, "M84\n")])))).toBe("G28\nM84\n");
  });

  test("without splices leaves a program as it is, and composed with any other is that other", () => {
    const set = setOf([at(1, 1, "x")]);
    expect(textOf(applySplices(bytesOf("abc"), noSplices))).toBe("abc");
    expect([compose(noSplices, set), compose(set, noSplices)]).toEqual([set, set]);
  });

  test("composed with another does what both do one after the other, in chunks of any size", () => {
    const program = fc.string({ minLength: 1, maxLength: 60, unit: "grapheme-ascii" });
    const both = program.chain((text) =>
      fitting(text.length).chain((first) => {
        const between = textOf(applySplices(bytesOf(text), setOf(first)));
        return fitting(between.length).map((second) => ({ text, first, second, between }));
      }),
    );
    fc.assert(
      fc.property(both, fc.integer({ min: 1, max: 30 }), ({ text, first, second, between }, size) => {
        const expected = textOf(applySplices(bytesOf(between), setOf(second)));
        const one = compose(setOf(first), setOf(second));
        expect(textOf(applySplices(bytesOf(text), one))).toBe(expected);
        const bytes = bytesOf(text);
        const chunks = Array.from({ length: Math.ceil(bytes.length / size) }, (_, i) =>
          bytes.slice(i * size, (i + 1) * size),
        );
        expect(Buffer.concat([...splicedChunks(chunks, one)]).toString()).toBe(expected);
      }),
      { numRuns: 400 },
    );
  });

  test("gives every splice back as it was put in, whatever its figures, its text and the order it came in", () => {
    const any = fc.record({
      atByte: fc.oneof(fc.nat(300), fc.nat(3_000_000_000)),
      removeBytes: fc.constant(0),
      removeLines: fc.constantFrom(0, 0, 1, 200),
      insert: fc.oneof(fc.constant(""), fc.constant("G1 X1 ; größer\n"), fc.string({ maxLength: 300 })),
      line: fc.oneof(fc.nat(50), fc.nat(90_000_000)),
      layer: fc.option(fc.nat(30_000), { nil: undefined }),
      by: fc.constantFrom("plan", "fan", "größer"),
    });
    fc.assert(
      fc.property(fc.array(any, { maxLength: 60 }), (splices) => {
        const sorted = splices
          .filter(({ removeLines, insert }) => removeLines > 0 || insert !== "")
          .map(({ layer, ...rest }) => ({ ...rest, ...(layer === undefined ? {} : { layer }) }))
          .sort((a, b) => a.atByte - b.atByte);
        expect([...splicesIn(setOf(sorted))]).toEqual(sorted);
      }),
      { numRuns: 300 },
    );
  });

  test("of a hundred thousand splices is in order, however late some of them come, and no longer than it must be", () => {
    const many = 100_000;
    const all = Array.from({ length: many }, (_, i) => ({ ...at(20 * i, 4, `G1 X${i % 1000}\n`), line: i }));
    const rising = setOf(all);
    // Every seventh comes at the very end, and some at each place come after others.
    const gatherer = new SpliceGatherer();
    for (const splice of all) if (splice.line % 7 !== 0) gatherer.add(splice);
    for (const splice of all) if (splice.line % 7 === 0) gatherer.add(splice);
    const late = gatherer.finish();
    expect(late.ok && sameSplices(late.value, rising)).toBe(true);
    expect(sameSplices(setOf([...all].reverse()), rising)).toBe(true);
    const bytes = rising.blocks.reduce((sum, block) => sum + block.bytes().length, 0);
    const texts = all.reduce((sum, { insert }) => sum + insert.length, 0);
    expect(bytes - texts).toBeLessThan(8 * many);
    expect(rising.blocks.length).toBeGreaterThan(10);
    // What is looked at one by one begins at a block and reads nothing before it.
    const last = rising.blocks[rising.blocks.length - 1];
    expect(last.line * 20).toBe(last.atByte);
    expect(last.longerBy).toBe(last.count);
  });
});
