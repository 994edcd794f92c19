/** What is usual for each material: a start for a new spool, never more. Densities from memory; the rest common practice. */

/** Below this hardly any material melts, and firmware guards the extruder. °C, common practice, no source. */
export const COLDEST_FEED_C = 170;

export interface MaterialFacts {
  densityGCm3: number;
  labelMinC: number;
  labelMaxC: number;
  bedC: number;
  fanPercent: number;
  /** A layer that takes less is slowed down. */
  smallestLayerSeconds: number;
  /** The first layer is laid so much hotter, and the fan waits until a layer (from 1): what shrinks more must hold better first. */
  firstLayersNozzleHotterC: number;
  firstLayersBedHotterC: number;
  fanFromLayer: number;
  /** Whether it pulls off the bed unless a brim holds it. */
  warps: boolean;
}

export const materials = {
  PLA: fact(1.24, [190, 220], 60, 100, 8, [5, 5, 2], false),
  PETG: fact(1.27, [225, 250], 80, 50, 8, [5, 5, 3], false),
  ABS: fact(1.04, [230, 255], 100, 15, 10, [5, 5, 4], true),
  ASA: fact(1.07, [235, 260], 100, 20, 10, [5, 5, 4], true),
  TPU: fact(1.21, [215, 235], 50, 50, 10, [5, 0, 3], false),
  PA: fact(1.14, [245, 270], 85, 0, 10, [5, 5, 4], true),
  PC: fact(1.2, [260, 290], 110, 0, 10, [5, 5, 4], true),
} satisfies Record<string, MaterialFacts>;

export type Material = keyof typeof materials;

export const materialNames = Object.keys(materials) as [Material, ...Material[]];

function fact(
  densityGCm3: number,
  [labelMinC, labelMaxC]: [number, number],
  bedC: number,
  fanPercent: number,
  smallestLayerSeconds: number,
  [firstLayersNozzleHotterC, firstLayersBedHotterC, fanFromLayer]: [number, number, number],
  warps: boolean,
): MaterialFacts {
  return {
    densityGCm3,
    labelMinC,
    labelMaxC,
    bedC,
    fanPercent,
    smallestLayerSeconds,
    firstLayersNozzleHotterC,
    firstLayersBedHotterC,
    fanFromLayer,
    warps,
  };
}
