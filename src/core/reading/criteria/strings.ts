import { Criterion } from "../criterion";

/** Strings: what oozes while the nozzle crosses the air. */
export const strings: Criterion = {
  short: "strings",
  question: "How are the strings between the posts?",
  answers: ["a web", "threads", "hairs", "a hair or two", "none"],
  aspect: "looks",
};
