/** Every line of a program, one after the other, for who looks at lines rather than at what they do. */
import { Line, LineScanner } from "./scan";

const [X, Y, E] = [88, 89, 69];

/** @param moves plain straight moves are visited, too; leaving them out is several times faster */
export function walkLines(
  chunks: Iterable<Uint8Array>,
  visit: (line: Line) => void,
  { moves }: { moves: boolean },
): void {
  const scanner = new LineScanner(visit, moves ? null : () => true);
  for (const chunk of chunks) scanner.push(chunk);
  scanner.end();
}

/** The last line (from 0) that lays material; -1 if none does. Behind it stands how the program ends. */
export function lastLayingLine(chunks: Iterable<Uint8Array>): number {
  let last = -1;
  const scanner = new LineScanner(
    (line) => {
      const moves = line.commandCount > 0 ? line.letters[0] === 71 && line.values[0] <= 3 : line.wordCount > 0;
      if (moves && line.has(E) && (line.has(X) || line.has(Y))) last = line.number;
    },
    ({ x, y, e }, number) => {
      if (!Number.isNaN(e) && !(Number.isNaN(x) && Number.isNaN(y))) last = number;
      return true;
    },
  );
  for (const chunk of chunks) scanner.push(chunk);
  scanner.end();
  return last;
}
