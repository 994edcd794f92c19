/** What only a sheet can have wrong with it. A new check is one file and one line here. */
import { bareJump } from "./bare-jump";
import { beadsBeside } from "./beads-beside";
import { belowBed } from "./below-bed";
import { beyondExtruder } from "./beyond-extruder";
import { beyondHotEnd } from "./beyond-hot-end";
import type { SheetCheck } from "./check";
import { gapCrossed } from "./gap-crossed";
import { longSpan } from "./long-span";
import { notOnBed } from "./not-on-bed";
import { nothingLaid } from "./nothing-laid";
import { proofDiffers } from "./proof-differs";

export const sheetChecks: SheetCheck[] = [
  nothingLaid,
  proofDiffers,
  belowBed,
  notOnBed,
  beadsBeside,
  longSpan,
  beyondHotEnd,
  beyondExtruder,
  bareJump,
  gapCrossed,
];
