/** A sheet as it comes from outside. */
import { z } from "zod";
import { nameSchema } from "../shelf/name";
import { unknownLetters } from "./letters";
import type { Item, Sheet } from "./sheet";

const MOST_ITEMS = 2000;
const DEEPEST = 12;

const expr = z.union([z.string().max(500, "A formula has at most 500 characters"), z.number()], {
  error: "Write a number or a formula",
});
const place = z.tuple([expr, expr], { error: "A place is two numbers: [x, y]" });
const bead = z.strictObject({ widthMm: expr.optional(), heightMm: expr.optional(), filamentPerMm: expr.optional() });
const off = { off: z.literal(true).optional() };
const laying = {
  bead: bead.optional(),
  speedMmS: expr.optional(),
  flow: expr.optional(),
  z: expr.optional(),
  retract: z.union([z.boolean(), expr]).optional(),
  start: expr.optional(),
  reverse: z.boolean().optional(),
  fill: z
    .strictObject({
      pattern: z.enum(["rings", "lines"], { error: "Filled with rings or with lines" }),
      angle: expr.optional(),
      percent: expr.optional(),
    })
    .optional(),
  ...off,
};
/** A name that formulas may use: letters, figures and underscores. */
const word = z
  .string()
  .regex(/^[A-Za-z][A-Za-z0-9_]{0,29}$/, "A name is a letter followed by letters, digits or _, at most 30");

const strokes = {
  line: z.strictObject({
    kind: z.literal("line"),
    points: z.array(place).min(2, "A line has two places at least").max(20_000, "At most 20,000 places"),
    closed: z.boolean().optional(),
    ...laying,
  }),
  rectangle: z.strictObject({
    kind: z.literal("rectangle"),
    centre: place,
    widthMm: expr,
    depthMm: expr,
    cornerMm: expr.optional(),
    ...laying,
  }),
  polygon: z.strictObject({
    kind: z.literal("polygon"),
    centre: place,
    radiusMm: expr,
    sides: expr,
    from: expr.optional(),
    ...laying,
  }),
  circle: z.strictObject({
    kind: z.literal("circle"),
    centre: place,
    radiusMm: expr,
    faces: expr.optional(),
    ...laying,
  }),
  arc: z
    .strictObject({
      kind: z.literal("arc"),
      centre: place.optional(),
      radiusMm: expr.optional(),
      from: expr.optional(),
      to: expr.optional(),
      through: z.tuple([place, place, place]).optional(),
      ...laying,
    })
    .refine(
      (arc) =>
        arc.through !== undefined || [arc.centre, arc.radiusMm, arc.from, arc.to].every((one) => one !== undefined),
      {
        message: "An arc goes through three places, or has a centre, a radius and two angles",
      },
    ),
  curve: z
    .strictObject({
      kind: z.literal("curve"),
      from: expr,
      to: expr,
      x: expr.optional(),
      y: expr.optional(),
      angle: expr.optional(),
      radiusMm: expr.optional(),
      centre: place.optional(),
      steps: expr.optional(),
      ...laying,
    })
    .refine(
      ({ x, y, angle, radiusMm }) =>
        (x !== undefined && y !== undefined) || (angle !== undefined && radiusMm !== undefined),
      {
        message: "A curve is said by x and y, or by angle and radius",
      },
    ),
  climb: z.strictObject({
    kind: z.literal("climb"),
    centre: place,
    radiusMm: expr,
    fromMm: expr,
    toMm: expr,
    risePerTurnMm: expr,
    facesPerTurn: expr.optional(),
    ...laying,
  }),
  word: z.strictObject({
    kind: z.literal("word"),
    text: z
      .string()
      .min(1, "A word has a letter at least")
      .max(40, "A word has at most 40 characters")
      .refine((text) => unknownLetters(text) === "", {
        error: ({ input }) =>
          `There are no strokes for ${unknownLetters(String(input))}: A to Z, digits and . , - + ! ? / can be laid`,
      }),
    at: place,
    sizeMm: expr,
    ...laying,
  }),
  travel: z.strictObject({ kind: z.literal("travel"), to: place, z: expr.optional(), ...off }),
  dwell: z.strictObject({ kind: z.literal("dwell"), seconds: expr, ...off }),
  lines: z.strictObject({
    kind: z.literal("lines"),
    lines: z
      .array(
        z
          .string()
          .max(200, "A line has at most 200 characters")
          .regex(/^[^\r\n]*$/, "One line each"),
      )
      .max(200),
    ...off,
  }),
};

const kinds = [...Object.keys(strokes), "repeat", "group"];

const item: z.ZodType<Item> = z.lazy(() =>
  z.unknown().transform((value, context): Item => {
    const kind = (value as { kind?: unknown } | null)?.kind;
    const schema =
      kind === "repeat"
        ? repeat
        : kind === "group"
          ? group
          : Object.hasOwn(strokes, String(kind))
            ? strokes[kind as keyof typeof strokes]
            : null;
    if (!schema) {
      context.addIssue({ code: "custom", message: `A row's kind is one of ${kinds.join(", ")}`, path: ["kind"] });
      return z.NEVER;
    }
    const parsed = schema.safeParse(value);
    if (parsed.success) return parsed.data as Item;
    for (const { message, path } of parsed.error.issues) context.addIssue({ code: "custom", message, path });
    return z.NEVER;
  }),
);

const repeat = z
  .strictObject({
    kind: z.literal("repeat"),
    along: z.enum(["x", "y", "z", "round", "mirror"], { error: "Along x, y, z, round a place, or mirrored" }),
    count: expr.optional(),
    spacingMm: expr.optional(),
    centre: place.optional(),
    angle: expr.optional(),
    counter: word.optional(),
    items: z.array(item).max(MOST_ITEMS),
    ...off,
  })
  .refine(({ along, count }) => along === "mirror" || count !== undefined, {
    message: "Say how often it is repeated",
    path: ["count"],
  })
  .refine(({ along, spacingMm }) => !["x", "y", "z"].includes(along) || spacingMm !== undefined, {
    message: "Say how far apart",
    path: ["spacingMm"],
  });

const group = z.strictObject({
  kind: z.literal("group"),
  name: z.string().max(100).optional(),
  items: z.array(item).max(MOST_ITEMS),
  ...off,
});

const keepOut = z
  .strictObject({
    shape: z.enum(["rectangle", "circle", "polygon"], { error: "Kept out is a rectangle, a circle or a polygon" }),
    centre: place.optional(),
    radiusMm: expr.optional(),
    widthMm: expr.optional(),
    depthMm: expr.optional(),
    points: z.array(place).max(1000, "At most 1,000 corners").optional(),
    fromMm: expr.optional(),
    toMm: expr.optional(),
    around: z.literal(true).optional(),
    ...off,
  })
  .refine(
    ({ shape, centre, radiusMm, widthMm, depthMm, points }) =>
      shape === "polygon"
        ? (points?.length ?? 0) >= 3
        : centre !== undefined &&
          (shape === "circle" ? radiusMm !== undefined : widthMm !== undefined && depthMm !== undefined),
    {
      message:
        "A circle has a centre and a radius, a rectangle a centre, width and depth, a polygon three places at least",
    },
  );

const shallowSheet = z
  .strictObject({
    version: z.literal(1, { error: "This sheet is of another version; 1 is known here" }),
    name: nameSchema("sheet", 100),
    figures: z
      .array(
        z.strictObject({
          name: word,
          value: expr,
          unit: z.string().max(20).optional(),
          low: z.number().optional(),
          high: z.number().optional(),
          step: z.number().positive().optional(),
        }),
      )
      .max(50, "At most 50 numbers")
      .default([]),
    bead: z.strictObject({ widthMm: expr, heightMm: expr }),
    speedMmS: expr,
    items: z.array(item).max(MOST_ITEMS, `At most ${MOST_ITEMS} rows`),
    keepOut: z.array(keepOut).max(100, "At most 100 places kept out").default([]),
    optimise: z
      .strictObject({
        nearestStart: z.boolean().optional(),
        nearestCopy: z.boolean().optional(),
        noNeedlessRetraction: z.boolean().optional(),
      })
      .optional(),
    rehearse: z.strictObject({ from: expr, to: expr, bands: expr }).optional(),
  })
  .refine((sheet) => rowsIn(sheet.items as Item[]) <= MOST_ITEMS, {
    message: `A sheet has at most ${MOST_ITEMS} rows`,
  }) as unknown as z.ZodType<Sheet>;

/** Looked at before anything else: what lies too deep cannot even be read. */
export const sheetSchema: z.ZodType<Sheet> = z
  .unknown()
  .refine(isShallow, { message: `Rows can be nested at most ${DEEPEST} deep`, path: ["items"] })
  .pipe(shallowSheet);

/** Whether rows lie no deeper in one another than they may; level by level, for a stack has an end. */
function isShallow(value: unknown): boolean {
  const itemsOf = (one: unknown): unknown[] => {
    const items = (one as { items?: unknown } | null)?.items;
    return Array.isArray(items) ? items : [];
  };
  let level = itemsOf(value);
  for (let depth = 0; level.length > 0; depth++) {
    if (depth === DEEPEST) return false;
    level = level.flatMap(itemsOf);
  }
  return true;
}

function rowsIn(items: readonly Item[]): number {
  return items.reduce((rows, one) => rows + 1 + ("items" in one ? rowsIn(one.items) : 0), 0);
}
