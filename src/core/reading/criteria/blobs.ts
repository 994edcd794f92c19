import { Criterion } from "../criterion";

/** Blobs: where too much was laid at once. */
export const blobs: Criterion = {
  short: "blobs",
  question: "Are there blobs where lines begin or turn?",
  answers: ["everywhere", "large", "small, at most places", "hardly any", "none"],
  aspect: "looks",
};
