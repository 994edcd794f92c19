/** Every specimen under its name. A new one is a file and a line here. */
import { advanceLines } from "./advance-lines";
import { advanceTower } from "./advance-tower";
import { arcade } from "./arcade";
import { blocks } from "./blocks";
import { fence } from "./fence";
import { harp } from "./harp";
import { lips } from "./lips";
import { longFrame } from "./long-frame";
import { oneWallBox } from "./one-wall-box";
import { posts } from "./posts";
import { tracksAndRing } from "./tracks-and-ring";
import { turns } from "./turns";
import type { Specimen } from "./specimen";

export const specimens = {
  "advance-lines": advanceLines,
  "advance-tower": advanceTower,
  arcade,
  blocks,
  fence,
  harp,
  lips,
  "long-frame": longFrame,
  "one-wall-box": oneWallBox,
  posts,
  "tracks-and-ring": tracksAndRing,
  turns,
} satisfies Record<string, Specimen>;

export type SpecimenKey = keyof typeof specimens;
