/** Commands at which a printer waits until somebody has done something: a simulated person comes after a while. */
import type { Handlers } from "../parts";
import { stillFor } from "../waits";

/** So long the person takes, s. */
const COMES_AFTER_S = 40;

const waitsForPerson = () => stillFor(COMES_AFTER_S);

export const personHandlers: Handlers = {
  M125: waitsForPerson,
  M226: waitsForPerson,
  M600: waitsForPerson,
  M601: waitsForPerson,
  M701: waitsForPerson,
  M702: waitsForPerson,
};
