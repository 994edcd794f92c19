/** Programs written in the habits of slicing are read as they were meant: layers, heights, filament, and where a change must stand. */
import fc from "fast-check";
import { readProgram } from "@/core/gcode/read";
import { CommentHabit, commentHabits, Habits, slicedIn } from "../helpers/sliced-habits";

/** What is not so; none where all is. */
function wrongIn(habits: Habits): string[] {
  const { text, layers: wanted } = slicedIn(habits);
  const { layers, moves, endState } = readProgram(text);
  if (layers.length !== wanted.length) return [`${layers.length} layers for ${wanted.length}`];
  const filament = new Float64Array(layers.length);
  for (let i = 0; i < moves.count; i++) {
    if (moves.layer[i] >= 0 && moves.filamentMm[i] > 0 && moves.kind[i] !== 4)
      filament[moves.layer[i]] += laidBy(moves, i);
  }
  const wrong: string[] = [];
  layers.forEach(({ zMm, insertLine }, i) => {
    const { zMm: z, filamentMm, firstBeadLine } = wanted[i];
    if (Math.abs(zMm - z) > 0.002) wrong.push(`layer ${i} at ${zMm} for ${z}`);
    if (Math.abs(filament[i] - filamentMm) > 0.01) wrong.push(`layer ${i} of ${filament[i]} mm for ${filamentMm}`);
    if (insertLine > firstBeadLine) wrong.push(`layer ${i}: a change stands behind its first bead`);
    if (i > 0 && insertLine <= wanted[i - 1].lastBeadLine) wrong.push(`layer ${i}: a change stands in the layer below`);
  });
  // Whatever is asked of G90 at the end, it is read to the end.
  if (endState.nozzleC[0] !== 0 || endState.bedC !== 0) wrong.push("it is still hot");
  return wrong;
}

/** Filament that lays something: what goes with motion. */
function laidBy({ filamentMm, x, y }: ReturnType<typeof readProgram>["moves"], i: number): number {
  return x[i] !== x[i - 1] || y[i] !== y[i - 1] ? filamentMm[i] : 0;
}

const styles = Object.keys(commentHabits) as CommentHabit[];
const counted = styles.filter((style) => !["none", "without number", "height only"].includes(style));

/** What any program may do. */
const anyHabits: Record<string, Omit<Habits, "comments">> = {
  "as it comes": {},
  "a thick first layer, lifts": { firstMm: 0.3, hop: "line" },
  "varying heights": { heightsMm: [0.3, 0.2, 0.2, 0.12, 0.08, 0.08, 0.16, 0.28, 0.28, 0.2] },
  "busy start": { busyStart: true },
  "busy start, lifts by G91": { busyStart: true, hop: "by G91", relative: true },
  "priming above": { primeMm: 0.4, relative: true },
  "one by one": { oneByOne: true, hop: "line" },
  "a thick layer below turns": { spiralFrom: 1, firstMm: 0.3, layers: 20, relative: true },
};
/** What only comments can tell apart. */
const commentedHabits: Record<string, Omit<Habits, "comments">> = {
  "walls of half the height": { halfHeightWalls: true, relative: true },
  "supports at their own height": { ownSupports: true },
  "smoothed a little above": { smoothedMm: 0.02, relative: true },
  "priming at the first layer's height": { primeMm: 0.2 },
  "a bead that rises": { rising: true, relative: true },
  "a low tower": { lowTower: true },
  raft: { raft: true, hop: "line" },
};

describe("each habit with each kind of comment", () => {
  const named = [
    ...styles.flatMap((comments) => Object.entries(anyHabits).map(([name, habits]) => ({ comments, name, habits }))),
    ...counted.flatMap((comments) =>
      Object.entries(commentedHabits).map(([name, habits]) => ({ comments, name, habits })),
    ),
  ];
  test("there are more than a hundred and twenty", () => expect(named.length).toBeGreaterThanOrEqual(120));
  test.each(named)("$comments: $name", ({ comments, habits }) => expect(wrongIn({ comments, ...habits })).toEqual([]));
});

test.each([
  ["comments at the end only", { comments: "none", endComments: true }],
  ["… beside one without number", { comments: "without number", endComments: true }],
  ["… beside counted ones", { comments: "two digits", endComments: true }],
  ["by object", { comments: "none", byObject: { endsSooner: 0 } }],
  ["by object, one ends sooner", { comments: "none", byObject: { endsSooner: 6 } }],
  ["by object, one ends a layer sooner", { comments: "none", byObject: { endsSooner: 1 } }],
  ["behind the lift", { comments: "from 0", commentBehindLift: true, hop: "line" }],
  ["half heights under a comment without number", { comments: "without number", halfHeightWalls: true }],
  ["own supports under a comment with its height", { comments: "height only", ownSupports: true }],
] as [string, Habits][])("%s", (_, habits) => expect(wrongIn(habits)).toEqual([]));

test("five hundred combinations, none wrong", () => {
  const heightMm = fc.constantFrom(0.08, 0.12, 0.16, 0.2, 0.24, 0.3);
  const common = {
    commentBehindLift: fc.boolean(),
    relative: fc.boolean(),
    hop: fc.constantFrom(undefined, "line" as const, "by G91" as const),
    busyStart: fc.boolean(),
    lineEnd: fc.constantFrom("\n" as const, "\r\n" as const),
    oneByOne: fc.boolean(),
    heightsMm: fc.array(heightMm, { minLength: 6, maxLength: 24 }),
    primeMm: fc.constantFrom(undefined, 0.5, 0.8),
  };
  const anyComment = fc.record({ comments: fc.constantFrom(...styles), ...common });
  const withComment = fc.record({
    comments: fc.constantFrom(...counted),
    ...common,
    primeMm: fc.constantFrom(undefined, 0.15, 0.2, 0.3, 0.8),
    // One of them: two may lie at one height in layers that follow one another.
    between: fc.constantFrom("walls", "supports", "rising", null),
    smoothedMm: fc.constantFrom(undefined, 0.02),
    endComments: fc.boolean(),
  });
  const mixed = withComment.map(({ between, ...habits }) => ({
    ...habits,
    halfHeightWalls: between === "walls",
    ownSupports: between === "supports",
    rising: between === "rising",
  }));
  for (const habits of [anyComment, mixed])
    fc.assert(
      fc.property(habits, (one) => expect(wrongIn(one)).toEqual([])),
      { numRuns: 250 },
    );
});
