import { layerForKey } from "@/ui/heightlog/log-keys";

const bands = [
  { firstLayer: 8, lastLayer: 57 },
  { firstLayer: 58, lastLayer: 107 },
];
const at = (cursor: number, key: string, withShift = false, ofBands = bands) =>
  layerForKey(key, withShift, { cursor, lastLayer: 120, bands: ofBands });

test.each([
  [20, "ArrowUp", false, 21],
  [120, "ArrowUp", false, 120],
  [0, "ArrowDown", false, 0],
  [20, "ArrowUp", true, 58],
  [60, "ArrowDown", true, 58],
  // A band's own edges are stops, its first layer and its last.
  [20, "PageUp", false, 57],
  [57, "PageUp", false, 58],
  [108, "PageUp", false, 120],
  [20, "PageDown", false, 8],
  [8, "PageDown", false, 0],
  [20, "Home", false, 0],
  [20, "End", false, 120],
])("from layer %i, %s (shift %s) goes to %i", (cursor, key, shift, layer) => {
  expect(at(cursor, key, shift)).toBe(layer);
});

test("without bands a page is ten layers, and other keys move nothing", () => {
  expect([at(20, "PageUp", false, []), at(4, "PageDown", false, []), at(20, "x")]).toEqual([30, 0, null]);
});
