/** Flow of some kinds of line that lay material, between two places. */
import { laidKinds, ScaleEdit, scaling } from "../scale";

export type ScaleFlowEdit = ScaleEdit<"scale-flow">;

export const scaleFlow = scaling("scale-flow", "flow", laidKinds, (percent) => ({ feed: 1, flow: percent / 100 }));
