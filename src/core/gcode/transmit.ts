/** A program as it is sent: its commands one by one, comments and empty lines left out. */

const decoder = new TextDecoder();

/** The command on the line that starts at byte `at` (empty if it has none), and the byte the next line starts at. */
export function commandAt(bytes: Uint8Array, at: number): { text: string; next: number } {
  const end = bytes.indexOf(10, at);
  const stop = end < 0 ? bytes.length : end;
  let to = at;
  while (to < stop && bytes[to] !== 59) to++;
  while (at < to && bytes[at] <= 32) at++;
  while (to > at && bytes[to - 1] <= 32) to--;
  return { text: at === to ? "" : decoder.decode(bytes.subarray(at, to)), next: stop + 1 };
}

/** How many lines of a program hold a command. */
export function countCommands(bytes: Uint8Array): number {
  let count = 0;
  for (let at = 0; at < bytes.length;) {
    let first = at;
    const end = bytes.indexOf(10, at);
    const stop = end < 0 ? bytes.length : end;
    while (first < stop && bytes[first] <= 32) first++;
    if (first < stop && bytes[first] !== 59) count++;
    at = stop + 1;
  }
  return count;
}
