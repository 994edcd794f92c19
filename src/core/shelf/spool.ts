/** One reel of filament. */
import { Material, materials } from "../material/materials";
import type { Spool } from "./spool-schema";

export type { Spool };

/** The usual figures of a material, for a spool whose material was just chosen. */
export function figuresOf(material: Material) {
  const { densityGCm3, labelMinC, labelMaxC, bedC, fanPercent, smallestLayerSeconds } = materials[material];
  return { densityGCm3, labelMinC, labelMaxC, bedC, fanPercent, smallestLayerSeconds };
}
