/** Rows of an outline moved about: nothing is lost, and what is moved back stands where it stood. */
import {
  fieldOf,
  insertRow,
  nestRow,
  removeRow,
  replaceRow,
  rowAt,
  shiftRow,
  swapWithParent,
  unnestRow,
} from "@/core/sheets/rows";
import type { Item } from "@/core/sheets/sheet";

const ring = (radiusMm: string): Item => ({ kind: "circle", centre: ["0", "0"], radiusMm });
const items: Item[] = [
  ring("1"),
  {
    kind: "repeat",
    along: "z",
    count: "3",
    spacingMm: "0.2",
    items: [{ kind: "repeat", along: "x", count: "2", spacingMm: "9", items: [ring("2"), ring("3")] }],
  },
  ring("4"),
];
const radii = (all: readonly Item[]): string[] =>
  all.flatMap((item) => ("items" in item ? radii(item.items) : "radiusMm" in item ? [String(item.radiusMm)] : []));

test("a row is found, called, replaced, put in and taken out at its place", () => {
  expect(rowAt(items, [1, 0, 1])).toEqual(ring("3"));
  expect(rowAt(items, [1, 5])).toBeNull();
  expect(fieldOf([1, 0, 1])).toBe("items.1.items.0.items.1");
  expect(radii(replaceRow(items, [1, 0, 0], ring("9")))).toEqual(["1", "9", "3", "4"]);
  expect(radii(insertRow(items, [1, 0, 1], ring("9")))).toEqual(["1", "2", "9", "3", "4"]);
  expect(radii(removeRow(items, [1, 0, 0]))).toEqual(["1", "3", "4"]);
  // What was given is not changed.
  expect(radii(items)).toEqual(["1", "2", "3", "4"]);
});

test("up and down, into and out of a repeat, and back", () => {
  expect(radii(shiftRow(items, [1, 0, 0], 1))).toEqual(["1", "3", "2", "4"]);
  expect(shiftRow(items, [0], -1)).toEqual(items);
  const into = nestRow(items, [2]);
  expect(rowAt(into, [1, 1])).toEqual(ring("4"));
  expect(unnestRow(into, [1, 1])).toEqual(items);
  expect(nestRow(items, [0])).toEqual(items);
});

test("a repeat and the one around it change places", () => {
  const swapped = swapWithParent(items, [1, 0]);
  expect(rowAt(swapped, [1])).toMatchObject({ along: "x" });
  expect(rowAt(swapped, [1, 0])).toMatchObject({ along: "z" });
  expect(swapWithParent(swapped, [1, 0])).toEqual(items);
});
