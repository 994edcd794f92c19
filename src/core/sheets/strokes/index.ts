/** Strokes that lay something. A new one is one file and one line here; travels, dwells and own lines have no path of their own. */
import { arc } from "./arc";
import { climb } from "./climb";
import { curve } from "./curve";
import { line } from "./line";
import { circle, polygon } from "./polygon";
import { rectangle } from "./rectangle";

import type { StrokeKind } from "./stroke";
import { word } from "./word";

export const strokeKinds = { line, rectangle, polygon, circle, arc, curve, climb, word };

export type LaidKind = keyof typeof strokeKinds;

export const laidKind = (kind: string): StrokeKind<never> | null =>
  Object.hasOwn(strokeKinds, kind) ? (strokeKinds[kind as LaidKind] as unknown as StrokeKind<never>) : null;
