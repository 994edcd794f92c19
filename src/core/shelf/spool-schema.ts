/** A spool's record as it comes over a border. */
import { z } from "zod";
import { USUAL_FILAMENT_MM } from "../material/bead";
import { Material, materialNames, materials } from "../material/materials";
import { figure } from "./figure";
import { nameSchema, plainText } from "./name";
import { figuresOf } from "./spool";

export const spoolSchema = z
  .object({
    name: nameSchema("spool", 60),
    maker: plainText("The maker", 60).default(""),
    material: z.enum(materialNames, { error: `The material is one of ${materialNames.join(", ")}` }),
    colourName: z.string().trim().max(40, "The colour is longer than 40 characters").default(""),
    colourHex: z
      .string()
      .regex(/^#[0-9a-fA-F]{6}$/, "A colour is # and six hexadecimal digits")
      .default("#B8A58F"),
    /** The range printed on the label. */
    labelMinC: figure(100, 450, "Label from"),
    labelMaxC: figure(100, 450, "Label to"),
    bedC: figure(0, 200, "Bed temperature"),
    fanPercent: figure(0, 100, "Fan"),
    diameterMm: figure(1, 4, "Diameter").default(USUAL_FILAMENT_MM),
    densityGCm3: figure(0.5, 5, "Density"),
    pricePerKg: figure(0, 10_000, "Price").default(0),
    currency: z.string().trim().max(5, "The currency is longer than 5 characters").default("€"),
    /** So many layers are laid hotter, and the fan waits until a layer (from 1), so that the piece takes and stays. */
    firstLayers: z
      .int({ error: "First layers are counted in whole numbers" })
      .min(1, "At least one first layer")
      .max(20, "At most 20 first layers")
      .default(1),
    firstLayersNozzleHotterC: figure(0, 50, "First layers, nozzle hotter by").default(0),
    firstLayersBedHotterC: figure(0, 50, "First layers, bed hotter by").default(0),
    fanFromLayer: z
      .int({ error: "Layers are counted in whole numbers" })
      .min(1, "Layers count from 1")
      .max(100, "The fan starts at layer 100 at the latest")
      .default(2),
    smallestLayerSeconds: figure(0, 120, "Smallest layer time").default(8),
  })
  .refine((spool) => spool.labelMaxC >= spool.labelMinC, {
    path: ["labelMaxC"],
    message: "The label ends below where it starts: swap the two temperatures",
  });

export type Spool = z.infer<typeof spoolSchema>;

/** A spool as it is added: what is not said of it is what its material usually wants. */
export const newSpoolSchema = z.preprocess((record) => {
  const material = (record as { material?: unknown } | null)?.material;
  const isKnown = typeof material === "string" && Object.hasOwn(materials, material);
  return isKnown ? { ...figuresOf(material as Material), ...(record as object) } : record;
}, spoolSchema);
