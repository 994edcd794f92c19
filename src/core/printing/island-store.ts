/**
 * Filled islands, kept by what surrounds them: storeys of a tower repeat, so that a tower is computed once and an edit costs little.
 * The store only saves time: what comes out depends on nothing but what goes in.
 */
import { boxesMeet, Region } from "../geometry/polygons";
import { fillIsland, IslandPaths } from "./island";
import { fillKey, Process } from "./process";
import { Island, Section, Slice } from "./slices";

const MOST_KEPT = 20_000;
const keptLayers = new Map<string, IslandPaths[]>();
const keptIslands = new Map<string, IslandPaths>();
/** Islands of a layer as one region: the same one each time, so that what is cut with it is known again. */
const keptTogether = new Map<string, Region>();

/**
 * The filled islands of a layer, in the order of its section, from the store where this situation was met before. Two
 * levels: whole layers repeat within a band; single islands repeat from band to band though others differ.
 */
export function pathsOfLayer(slices: Slice[], layer: number, process: Process): IslandPaths[] {
  const processKey = fillKey(process);
  const { section, heightMm } = slices[layer];
  const below: Section[] = [];
  const above: Section[] = [];
  for (let i = 1; i <= process.solidLayersBelow && layer - i >= 0; i++) below.push(slices[layer - i].section);
  for (let i = 1; i <= process.solidLayersAbove && layer + i < slices.length; i++)
    above.push(slices[layer + i].section);
  const common = `${processKey}/${Math.round(heightMm * 1e4)}/${layer & 1}`;
  let key = `${common}/${section.id}/`;
  for (const { id } of below) key += `${id},`;
  key += "/";
  for (const { id } of above) key += `${id},`;
  let paths = keptLayers.get(key);
  if (!paths) {
    paths = section.islands.map((island) => pathsOfIsland(island, below, above, heightMm, layer, process, common));
    if (keptLayers.size > MOST_KEPT) keptLayers.clear();
    keptLayers.set(key, paths);
  }
  return paths;
}

function pathsOfIsland(
  island: Island,
  below: Section[],
  above: Section[],
  layerHeightMm: number,
  layer: number,
  process: Process,
  common: string,
): IslandPaths {
  const near = ({ islands }: Section) => islands.filter((other) => boxesMeet(other.box, island.box));
  const nearBelow = below.map(near);
  const nearAbove = above.map(near);
  const idsOf = (list: Island[][]) => list.map((islands) => islands.map(({ id }) => id).join(",")).join(";");
  const key = `${common}/${island.id}/${idsOf(nearBelow)}/${idsOf(nearAbove)}`;
  let paths = keptIslands.get(key);
  if (!paths) {
    paths = fillIsland(
      {
        island: island.region,
        layerHeightMm,
        odd: (layer & 1) === 1,
        below: distinct(nearBelow),
        above: distinct(nearAbove),
        bottomMissing: below.length < process.solidLayersBelow,
        topMissing: above.length < process.solidLayersAbove,
      },
      process,
    );
    if (keptIslands.size > MOST_KEPT) keptIslands.clear();
    keptIslands.set(key, paths);
  }
  return paths;
}

/** The regions of neighbouring layers without repeats of the one before: in the middle of a post all layers are one. */
function distinct(islands: Island[][]): Region[] {
  const ids = islands.map((list) => list.map(({ id }) => id).join(","));
  return islands
    .filter((_, i) => i === 0 || ids[i] !== ids[i - 1])
    .map((list) => (list.length === 1 ? list[0].region : together(list)));
}

function together(list: Island[]): Region {
  const key = list.map(({ id }) => id).join();
  let region = keptTogether.get(key);
  if (!region) {
    region = list.flatMap((island) => island.region);
    if (keptTogether.size > MOST_KEPT) keptTogether.clear();
    keptTogether.set(key, region);
  }
  return region;
}
