import { Criterion } from "../criterion";

/** Lines that stay as wide as they are while the speed changes. */
export const even: Criterion = {
  short: "even",
  question: "How evenly wide is the line where the speed changes?",
  answers: ["it breaks off", "thin and thick by half", "clearly uneven", "hardly uneven", "even throughout"],
  aspect: "looks",
};
