/** What a bench knows altogether: docs/values.md; shares of variance against a worked example and a statistics package. */
import { jStat } from "jstat";
import { knownCsv, knownOf, shareBetween } from "@/core/values/known";
import type { KeptValue } from "@/core/trials/kept";
import { ladle, printers, saffron, spools } from "../helpers/demo";
import { keptValue } from "../helpers/kept";

const shelf = {
  printers: new Map(printers.map((printer, i) => [i + 1, printer])),
  spools: new Map(spools.map((spool, i) => [i + 1, spool])),
};
const pla = spools.flatMap((spool, i) => (spool.material === "PLA" ? [i + 1] : []));
const known = (counting: KeptValue[], everything = counting) => knownOf(counting, everything, shelf);

test("the share between groups is Hays' ω², by hand and by the package's analysis of variance", () => {
  // By hand: groups 1 2 3, 4 5 6, 7 8 9: SSb = 54, SSw = 6, MSw = 1, SSt = 60; (54 − 2·1) / (60 + 1).
  const groups = [
    [1, 2, 3],
    [4, 5, 6],
    [7, 8, 9],
  ];
  expect(shareBetween(groups)).toBeCloseTo(52 / 61, 12);
  const uneven = [
    [3.1, 2.9, 4.2, 3.3],
    [2.2, 2.8],
    [5.1, 4.4, 4.9],
  ];
  // ω² by F: (k − 1)(F − 1) / ((k − 1)(F − 1) + n).
  const f = jStat.anovafscore(...uneven);
  expect(shareBetween(uneven)).toBeCloseTo((2 * (f - 1)) / (2 * (f - 1) + 9), 9);
  expect(shareBetween([[1, 2, 3]])).toBeNull();
  expect(shareBetween([[1], [2]])).toBeNull();
  expect(
    shareBetween([
      [5, 5],
      [5, 5],
    ]),
  ).toBe(0);
});

test("values of a setting stand together, and what they differ by is named first", () => {
  const others = spools.flatMap((spool, i) => (spool.material === "PETG" ? [i + 1] : []));
  expect(others.length).toBeGreaterThan(0);
  const values = [
    ...pla.flatMap((spoolId, i) =>
      [1, 2].map((printerId) => keptValue({ spoolId, printerId, value: 205 + i + printerId })),
    ),
    ...others.flatMap((spoolId) =>
      [1, 2].map((printerId) => keptValue({ spoolId, printerId, value: 238 + printerId })),
    ),
    keptValue({ setting: "fan", value: 80 }),
  ];
  const [nozzle, fan] = known(values);
  expect(nozzle.setting).toBe("nozzleTemperature");
  expect(nozzle.values).toHaveLength(values.length - 1);
  expect(nozzle.differs.find(({ by }) => by === "material")!.share).toBeGreaterThan(0.8);
  expect(nozzle.differs.find(({ by }) => by === "printer")).toBeUndefined();
  expect(fan.differs).toEqual([]);
  // What was only taken over was found nowhere; what is not on the shelf any more is left out.
  expect(known([keptValue({ carriedFrom: 3 }), keptValue({ spoolId: 999 })])).toEqual([]);
});

test("a value that the others do not lead one to expect is out of line, and only that one", () => {
  // Five colours of one maker's material.
  const colours = new Map(
    ["#aa0000", "#00aa00", "#0000aa", "#aaaa00", "#00aaaa"].map((colourHex, i) => [i + 1, { ...saffron, colourHex }]),
  );
  const values = [1, 2, 3, 4, 5].map((spoolId) => keptValue({ spoolId, value: spoolId === 3 ? 240 : 206 + spoolId }));
  const [nozzle] = knownOf(values, values, { ...shelf, spools: colours });
  expect(nozzle.outOfLine.map(({ id }) => id)).toEqual([values[2].id]);
  expect(nozzle.outOfLine[0].why).toMatch(/^The other 4 lead one to expect \d/);
  // Two others are too few to be out of line with.
  expect(knownOf(values.slice(0, 3), values, { ...shelf, spools: colours })[0].outOfLine).toEqual([]);
});

test("what was found anew for a pair and lies beyond its range has drifted; another nozzle is another thing", () => {
  const at = (month: number) => `2026-${String(month).padStart(2, "0")}-01T10:00:00Z`;
  const first = keptValue({ value: 205, fromValue: 203, toValue: 208, keptAt: at(1) });
  const last = keptValue({ value: 214, fromValue: 212, toValue: 216, keptAt: at(9) });
  const [nozzle] = known([last], [first, last]);
  expect(nozzle.drifted).toEqual([
    { printerId: 1, spoolId: 1, why: expect.stringContaining("from 205 °C to 214 °C in 8 months") as string },
  ]);
  expect(known([last], [{ ...first, nozzleMm: 0.6 }, last])[0].drifted).toEqual([]);
  // Within its range it may be the same value.
  expect(known([last], [{ ...first, toValue: 215 }, last])[0].drifted).toEqual([]);
});

test("when all pairs of a printer went the same way, the printer is named; when they went either way, it is not", () => {
  const chain = (spoolId: number, from: number, to: number) => [
    keptValue({ spoolId, value: from, keptAt: "2026-02-01T10:00:00Z" }),
    keptValue({ spoolId, value: to, keptAt: "2026-10-01T10:00:00Z" }),
  ];
  const all = [...chain(1, 205, 212), ...chain(2, 200, 208), ...chain(3, 230, 236)];
  const newest = all.filter((_, i) => i % 2 === 1);
  const [{ drifted }] = known(newest, all);
  expect(drifted[0]).toMatchObject({ printerId: 1, spoolId: null });
  expect(drifted[0].why).toContain(`On ${ladle.name} all 3`);
  const either = [...chain(1, 205, 212), ...chain(2, 208, 201), ...chain(3, 230, 231)];
  const own = known(
    either.filter((_, i) => i % 2 === 1),
    either,
  )[0].drifted;
  expect(own.filter(({ spoolId }) => spoolId === null)).toEqual([]);
});

test("as CSV every value is a row of RFC 4180", () => {
  const rows = knownCsv(known([keptValue({ value: 207.5, fromValue: 205, toValue: 210 })])).split("\r\n");
  expect(rows).toHaveLength(3);
  expect(rows[0]).toBe("setting,value,unit,from,to,printer,nozzle mm,spool,material,maker,kept");
  expect(rows[1]).toMatch(/^Nozzle temperature,207.5,°C,205,210,Ladle 220,0.4,/);
});
