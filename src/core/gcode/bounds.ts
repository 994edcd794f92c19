/**
 * How much of a program is taken: stated here once. No print that anybody makes comes near these; a file that passes one is damaged or
 * made to be large, and is refused with a sentence instead of filling the memory.
 */
import { plainNumber } from "../units";

/** Layers: two metres of 0.07 mm. */
export const MOST_LAYERS = 30_000;
/** Commands that set something; those behind are not taken. */
export const MOST_EVENTS = 1_000_000;
/** What edits put in and change in one file, packed: every line of the largest file that is opened, and as much again. */
export const MOST_CHANGED_BYTES = 512 * 1024 * 1024;
/** Letters of a command that is sent to a printer: none takes longer lines. Common practice, no source. */
export const LONGEST_SENT = 500;

/** Why a program that was read is not kept; null if it is. */
export function tooMuch({ layers, events }: { layers: { length: number }; events: { count: number } }): string | null {
  const figure = (count: number) => count.toLocaleString("en").replaceAll(",", " ");
  if (layers.length > MOST_LAYERS) {
    return `It has ${figure(layers.length)} layers; ${figure(MOST_LAYERS)} are the most that can be worked with.`;
  }
  if (events.count >= MOST_EVENTS) {
    return `It sets temperatures, fans and the like ${figure(MOST_EVENTS)} times or more; that is more than can be worked with.`;
  }
  return null;
}

/** The first command longer than a printer takes: its line from 1 and its length; null if there is none. */
export function tooLongToSend(commands: Iterable<{ line: number; length: number }>): string | null {
  for (const { line, length } of commands) {
    if (length > LONGEST_SENT) {
      return `Line ${line} is ${plainNumber(length, 0)} characters long; a printer takes ${LONGEST_SENT} at most.`;
    }
  }
  return null;
}
