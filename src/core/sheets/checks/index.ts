/** What only a sheet can have wrong with it. A new check is one file and one line here. */
import { bareJump } from "./bare-jump";
import { beadShape } from "./bead-shape";
import { beadsBeside } from "./beads-beside";
import { belowBed } from "./below-bed";
import { beyondExtruder } from "./beyond-extruder";
import { beyondHotEnd } from "./beyond-hot-end";
import type { SheetCheck } from "./check";
import { gapCrossed } from "./gap-crossed";
import { longSpan } from "./long-span";
import { looseEnd } from "./loose-end";
import { notOnBed } from "./not-on-bed";
import { nothingLaid } from "./nothing-laid";
import { proofDiffers } from "./proof-differs";
import { standsOn } from "./stands-on";

export const sheetChecks: SheetCheck[] = [
  nothingLaid,
  proofDiffers,
  belowBed,
  notOnBed,
  beadShape,
  standsOn,
  beadsBeside,
  longSpan,
  looseEnd,
  beyondHotEnd,
  beyondExtruder,
  bareJump,
  gapCrossed,
];
