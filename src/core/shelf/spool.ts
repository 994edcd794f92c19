/** One reel of filament. */
import { Material, materials } from "../material/materials";
import type { Spool } from "./spool-schema";

export type { Spool };

/** The usual figures of a material, for a spool whose material was just chosen. */
export function figuresOf(material: Material) {
  const { warps: _, ...figures } = materials[material];
  return figures;
}

/**
 * What some of it costs, in the spool's currency; null where it has no price.
 *
 * @example
 * costOf(250, { pricePerKg: 20 }); // 5
 */
export const costOf = (massG: number, { pricePerKg }: Pick<Spool, "pricePerKg">): number | null =>
  pricePerKg > 0 ? (massG / 1000) * pricePerKg : null;
