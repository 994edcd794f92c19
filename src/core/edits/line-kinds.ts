/** What the move on a line is, asked with rising lines. */
import { laysMaterial, MoveTable } from "../gcode/moves";

export class LineKindFinder {
  private next = 0;

  /** @param values one a move: kinds of line, or anything else that is to be known of a move */
  constructor(
    private readonly moves: MoveTable,
    private readonly values: ArrayLike<number>,
  ) {}

  /** The value of the line's first laying move, else of its first; 0 where it moves nothing. An arc is several moves of one line. */
  kindAt(line: number): number {
    const { moves, values } = this;
    while (this.next < moves.count && moves.line[this.next] < line) this.next++;
    for (let i = this.next; i < moves.count && moves.line[i] === line; i++) {
      if (laysMaterial(moves.kind[i])) return values[i];
    }
    return moves.line[this.next] === line ? values[this.next] : 0;
  }
}
