/**
 * What a material does not bear, whatever the printer: first rounds stop there, and nothing is laid faster. One rule, one reason, which is
 * shown where the rule acts. A value that was found by trying counts more than any rule. Common practice, no source.
 */
import type { Material } from "./materials";

export type Ruled = "printSpeed" | "retractionLength" | "retractionSpeed" | "fan";

export interface MaterialRule {
  about: Ruled;
  /** In the setting's own unit. */
  most: number;
  /** Goes on after the material's name: `TPU …`. */
  because: string;
}

const soft: MaterialRule[] = [
  { about: "printSpeed", most: 40, because: "is soft and buckles between gear and nozzle when it is pushed fast" },
  { about: "retractionLength", most: 3, because: "stretches instead of being drawn back far" },
  { about: "retractionSpeed", most: 30, because: "slips in the gear when it is drawn back fast" },
];
const clinging: MaterialRule[] = [
  { about: "printSpeed", most: 80, because: "clings to the nozzle and tears off what is laid too fast" },
  { about: "retractionLength", most: 6, because: "drawn back further freezes in the cold part and jams" },
  { about: "fan", most: 60, because: "layers part under more air" },
];
const warping: MaterialRule[] = [{ about: "fan", most: 40, because: "warps and splits under more air" }];

export const materialRules: Partial<Record<Material, readonly MaterialRule[]>> = {
  TPU: soft,
  PETG: clinging,
  ABS: warping,
  ASA: warping,
  PA: warping,
  PC: warping,
};

/** The rule of a material about a setting. */
export function ruleOf(material: Material, about: string): MaterialRule | undefined {
  return materialRules[material]?.find((rule) => rule.about === about);
}

/** The highest value of a setting that a material bears; Infinity where no rule says. */
export function mostOf(material: Material, about: Ruled): number {
  return ruleOf(material, about)?.most ?? Infinity;
}

/** Nozzles up to this wide lay lines that smallest layer times are said for, mm. */
const USUAL_NOZZLE_MM = 0.4;

/** How much longer than the spool says a layer of a wide nozzle takes at least: thick lines hold their heat longer, about as they are wide. */
export function wideNozzleFactor(nozzleMm: number): number {
  return Math.max(1, nozzleMm / USUAL_NOZZLE_MM);
}
