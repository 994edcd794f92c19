import { Criterion } from "../criterion";

/** The plain walls. */
export const surface: Criterion = {
  short: "surface",
  question: "How do the flat walls look?",
  answers: ["torn or missing", "rough", "dull or uneven", "even but for a spot", "smooth and even"],
  aspect: "looks",
};
