/** Where a key takes the log's cursor. */

/** Without bands a page is so many layers. */
const PAGE_LAYERS = 10;

interface Where {
  cursor: number;
  lastLayer: number;
  bands: readonly { firstLayer: number; lastLayer: number }[];
}

/** The layer, from 0, that a key goes to; null for a key that moves nothing. Page Up and Down stop at the edges of bands. */
export function layerForKey(key: string, withShift: boolean, { cursor, lastLayer, bands }: Where): number | null {
  const starts = bands.map(({ firstLayer }) => firstLayer);
  const nextStart = () => starts.find((first) => first > cursor) ?? lastLayer;
  const startBefore = () => starts.findLast((first) => first < cursor) ?? 0;
  const edges = [...new Set([0, ...bands.flatMap((band) => [band.firstLayer, band.lastLayer]), lastLayer])].sort(
    (a, b) => a - b,
  );
  const held = (layer: number) => Math.min(lastLayer, Math.max(0, layer));
  switch (key) {
    case "ArrowUp":
      return withShift ? nextStart() : held(cursor + 1);
    case "ArrowDown":
      return withShift ? startBefore() : held(cursor - 1);
    case "PageUp":
      if (bands.length === 0) return held(cursor + PAGE_LAYERS);
      return edges.find((edge) => edge > cursor) ?? lastLayer;
    case "PageDown":
      if (bands.length === 0) return held(cursor - PAGE_LAYERS);
      return edges.findLast((edge) => edge < cursor) ?? 0;
    case "Home":
      return 0;
    case "End":
      return lastLayer;
    default:
      return null;
  }
}
