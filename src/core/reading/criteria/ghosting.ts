import { Criterion } from "../criterion";

/** Ghosts: ripples behind a sharp turn. */
export const ghosting: Criterion = {
  short: "ghosts",
  question: "Are there ripples behind letters and corners?",
  answers: ["deep, all along", "clear, several", "clear, a few", "faint, at a slant", "none"],
  aspect: "looks",
};
