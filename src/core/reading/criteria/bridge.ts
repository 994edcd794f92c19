import { Criterion } from "../criterion";

/** Bridges: strands over air, seen from below. */
export const bridge: Criterion = {
  short: "bridge",
  question: "How is the underside of the bridge?",
  answers: ["it fell", "loops hang down", "it sags", "nearly flat", "flat and closed"],
  aspect: "looks",
};
