/** How each thing that is looked at comes out. A new one is one file and one line here. */
import type { CriterionKey } from "../../../reading";
import type { Defect } from "../defect";
import { blobs } from "./blobs";
import { bond } from "./bond";
import { bridge } from "./bridge";
import { corners } from "./corners";
import { even } from "./even";
import { gaps } from "./gaps";
import { ghosting } from "./ghosting";
import { overhang } from "./overhang";
import { strings } from "./strings";
import { surface } from "./surface";
import { top } from "./top";

export const defects: Record<CriterionKey, Defect> = {
  strings,
  bridge,
  overhang,
  corners,
  surface,
  bond,
  ghosting,
  gaps,
  blobs,
  even,
  top,
};
