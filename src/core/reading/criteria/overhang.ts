import { Criterion } from "../criterion";

/** Overhangs: fins, lips and noses that lean over air. */
export const overhang: Criterion = {
  short: "overhang",
  question: "How are the faces that lean out?",
  answers: ["they fell", "loose strands", "they curl up", "a little rough", "smooth to the edge"],
  aspect: "looks",
};
