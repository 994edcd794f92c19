/** What edits leave at each bead, by an interpreter of the tests' own: prints that once came out wrong, and no check said so. */
import { edited } from "../helpers/edits";
import { interpret } from "../helpers/beads";
import { slicedIn } from "../helpers/sliced-habits";

describe("commands between the first travel and the first bead", () => {
  const { text } = slicedIn({ comments: "none", busyStart: true, relative: true });
  const before = interpret(text).beads;

  test("the print moves with its first bead", () => {
    const { beads } = interpret(edited(text, [{ kind: "move", byMm: { x: 20, y: 10, z: 0 } }]).after);
    expect(beads.map(({ from, to }) => [from[0] - 20, from[1] - 10, to[0] - 20, to[1] - 10].map(Math.round))).toEqual(
      before.map(({ from, to }) => [from[0], from[1], to[0], to[1]].map(Math.round)),
    );
  });

  test("raised, all of it is", () => {
    const { beads } = interpret(edited(text, [{ kind: "move", byMm: { x: 0, y: 0, z: 5 } }]).after);
    expect(beads[0].from[2]).toBeCloseTo(5.2, 6);
    beads.forEach(({ to }, i) => expect(to[2]).toBeCloseTo(before[i].to[2] + 5, 4));
  });

  test("other start lines leave the way to the first bead", () => {
    const { beads } = interpret(edited(text, [{ kind: "start-end", start: true, end: false }]).after);
    const laid = beads.slice(-before.length);
    expect(laid[0].from.map((mm) => mm.toFixed(3))).toEqual(before[0].from.map((mm) => mm.toFixed(3)));
  });
});
