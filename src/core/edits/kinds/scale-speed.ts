/** Speed of some kinds of line, between two places. */
import { ScaleEdit, scaledKinds, scaling } from "../scale";

export type ScaleSpeedEdit = ScaleEdit<"scale-speed">;

export const scaleSpeed = scaling("scale-speed", "speed", scaledKinds, (percent) => ({ feed: percent / 100, flow: 1 }));
