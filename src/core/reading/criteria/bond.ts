import { Criterion } from "../criterion";

/** How layers hold to one another, by the press test. */
export const bond: Criterion = {
  short: "bond",
  question: "Press on the thin part: how do its layers hold?",
  answers: ["falls apart", "snaps at once", "snaps when pressed hard", "bends, then snaps", "bends and holds"],
  aspect: "strength",
};
