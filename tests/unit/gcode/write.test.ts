import fc from "fast-check";
import { MoveKind, MoveTableBuilder } from "@/core/gcode/moves";
import { readProgram } from "@/core/gcode/read";
import { ByteWriter, writeMoves } from "@/core/gcode/write";
import { textOf } from "../helpers/programs";

function written(value: number, decimals: number): string {
  const out = new ByteWriter();
  out.number(value, decimals);
  return textOf(out.take());
}

describe("numbers in programs", () => {
  test.each([
    [0, 3, "0"],
    [-0, 3, "0"],
    [-0.0001, 3, "0"],
    [1, 3, "1"],
    [10, 3, "10"],
    [100.5, 3, "100.5"],
    [0.1 + 0.2, 3, "0.3"],
    [-12.3456, 3, "-12.346"],
    [0.00001, 5, "0.00001"],
    [1e-7, 5, "0"],
    [123456.789, 3, "123456.789"],
    [9_999_999.12345, 5, "9999999.12345"],
    [1800, 0, "1800"],
    [0.05, 3, "0.05"],
  ])("%d with %i places is %s", (value, decimals, expected) => {
    expect(written(value, decimals)).toBe(expected);
  });

  test("the platform's own formatting agrees", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -5_000_000, max: 5_000_000 }),
        fc.integer({ min: 0, max: 5 }),
        (whole, decimals) => {
          const value = whole / 10 ** decimals;
          const expected = decimals > 0 ? value.toFixed(decimals).replace(/\.?0+$/, "") : value.toFixed(0);
          expect(written(value, decimals)).toBe(expected === "-0" || expected === "" ? "0" : expected);
        },
      ),
    );
  });

  test("any text, also beyond ASCII, as UTF-8", () => {
    const out = new ByteWriter();
    out.line("; 225 °C, Ø");
    out.text("é");
    expect(textOf(out.take())).toBe("; 225 °C, Ø\né");
  });

  test("more than the first buffer holds", () => {
    const out = new ByteWriter();
    for (let i = 0; i < 20_000; i++) out.line("G1 X1 Y1");
    expect(out.take()).toHaveLength(180_000);
  });
});

const move = fc.record({
  x: fc.integer({ min: 0, max: 200_000 }),
  y: fc.integer({ min: 0, max: 200_000 }),
  fed: fc.integer({ min: 1, max: 500_000 }),
  feed: fc.integer({ min: 1, max: 200 }),
  print: fc.boolean(),
});

test("reading what was written gives the same moves", () => {
  fc.assert(
    fc.property(fc.array(fc.array(move, { minLength: 1, maxLength: 12 }), { minLength: 1, maxLength: 8 }), (layers) => {
      const builder = new MoveTableBuilder();
      const starts: number[] = [];
      const tops: number[] = [];
      layers.forEach((list, index) => {
        starts.push(builder.count);
        const z = 0.2 * (index + 1);
        tops.push(z);
        builder.add(0, 0, z, 0, 10, MoveKind.travel, 0);
        for (const { x, y, fed, feed, print } of list) {
          builder.add(
            x / 1000,
            y / 1000,
            z,
            print ? fed / 1e5 : 0,
            feed,
            print ? MoveKind.outerWall : MoveKind.travel,
            0,
          );
        }
      });
      starts.push(builder.count);
      const moves = builder.take();
      const out = new ByteWriter();
      out.line("M83");
      writeMoves(out, moves, starts, {
        linesBefore: new Map([[0, ["M106 S9"]]]),
        linesBeforeMove: new Map([[1, "M107"]]),
        tops,
        start: { x: 0, y: 0 },
      });
      const read = readProgram(out.take()).moves;
      // Moves that go nowhere leave no trace in a table; all others come back.
      const places = (table: typeof moves) => {
        const list: string[] = [];
        let last = "";
        for (let i = 0; i < table.count; i++) {
          const place = `${table.x[i].toFixed(3)} ${table.y[i].toFixed(3)} ${table.z[i].toFixed(3)}`;
          if (place !== last) list.push(place);
          last = place;
        }
        return list;
      };
      expect(places(read)).toEqual(places(moves));
      expect(Math.max(...read.feedMmS)).toBeCloseTo(Math.max(...moves.feedMmS), 4);
    }),
    { numRuns: 60 },
  );
});

test("rounding of filament never adds up", () => {
  const builder = new MoveTableBuilder();
  const each = 0.123456789;
  for (let i = 0; i < 1000; i++) builder.add(i % 2, i, 0.2, each, 20, MoveKind.outerWall, 0);
  const moves = builder.take();
  const out = new ByteWriter();
  writeMoves(out, moves, [0, moves.count], {
    linesBefore: new Map(),
    linesBeforeMove: new Map(),
    tops: [0.2],
    start: { x: 0, y: 0 },
  });
  const sum = [...textOf(out.take()).matchAll(/E([\d.]+)/g)].reduce((total, [, value]) => total + Number(value), 0);
  expect(sum).toBeCloseTo(each * 1000, 4);
});
