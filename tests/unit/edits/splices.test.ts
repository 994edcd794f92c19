import fc from "fast-check";
import { applySplices, compose, noSplices, Splice, splicedChunks, SpliceSet, spliceSet } from "@/core/edits/splice";
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
    expect(set.splices.map(({ atByte, insert }) => `${atByte}${insert}`)).toEqual(["3b", "3d", "9c", "9"]);
  });

  test("is refused with both edits' names where two of them change the same bytes", () => {
    const refused = spliceSet([at(3, 5, "x"), at(6, 1, "", "lines taken out")]);
    expect(refused).toMatchObject({ ok: false, message: "“plan” and “lines taken out” both change line 1." });
    expect(spliceSet([at(3, 5, "x"), at(3, 5, "y")])).toMatchObject({ ok: false, message: /twice/ });
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
});
