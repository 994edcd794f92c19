/** A stop at a height: parked, said on the display, waited for a person, and gone on exactly where it was. */
import { z } from "zod";
import { follow } from "../../gcode/follow";
import { readingOf } from "../../machine/reading";
import type { MachineState } from "../../machine/state";
import { refuse } from "../../result";
import { outsideBedMm } from "../../shelf/printer";
import { bitsOf } from "../../trace/fields";
import { plainNumber } from "../../units";
import { asCounted, DRAW_MM_S, GO_MM_S, LIFT_MM_S } from "../as-counted";
import { EditContext, EditKind } from "../edit";
import { onScreen } from "./display";
import { LineSplices } from "../line-splice";
import { layersOf } from "../scope";

export interface PauseEdit {
  kind: "pause";
  at: { heightMm: number } | { layer: number; countsFrom: 0 | 1 };
  park?: { x: number; y: number; liftMm?: number };
  /** Stands on the display. */
  message?: string;
  beep: boolean;
}

const figure = (what: string) =>
  z
    .number({ error: `${what} is a number in mm` })
    .min(-1000, `${what} is too far`)
    .max(1000, `${what} is too far`);

const schema = z.strictObject({
  kind: z.literal("pause"),
  at: z.union(
    [
      z.strictObject({
        heightMm: z.number().min(0, "A height cannot be below the bed").max(2000, "A height must be at most 2000 mm"),
      }),
      z.strictObject({ layer: z.int().min(0).max(1_000_000), countsFrom: z.union([z.literal(0), z.literal(1)]) }),
    ],
    { error: "Say where: {heightMm} or {layer, countsFrom}" },
  ),
  park: z
    .strictObject({
      x: figure("X"),
      y: figure("Y"),
      liftMm: z.number().min(0, "Lifted by at least 0 mm").max(200, "Lifted by at most 200 mm").optional(),
    })
    .optional(),
  message: z
    .string()
    .max(60, "A display shows at most 60 characters")
    .regex(/^[^\r\n;]*$/, "A message is one line without a semicolon")
    .optional(),
  beep: z.boolean().default(true),
}) as unknown as z.ZodType<PauseEdit>;

/** Behind the line that goes to a place on the bed, whatever place the print has. */
export const PARKS = "parks";
/** Drawn back and lifted so far while it stands. Common practice, no source. */
const DRAW_BACK_MM = 2;
const LIFT_MM = 10;
const NOBODY_KNOWS = -1;

export const pause: EditKind<PauseEdit> = {
  label: "pause",
  writesFilament: true,
  tellsHeats: true,
  stops: true,
  schema,
  asks({ at, park }, { file }) {
    const scope = layersOf(
      "heightMm" in at ? { fromMm: at.heightMm } : { fromLayer: at.layer, countsFrom: at.countsFrom },
      file,
    );
    if (!scope.ok) return {};
    const { insertByte } = file.report.layers[scope.value.first];
    const from = file.stateBefore(insertByte);
    let paused = -1;
    return {
      bead(bead) {
        if (paused >= 0 || bead.layer < scope.value.first) return true;
        paused = bead.move;
        const { way } = bead;
        const awayMm = park ? Math.hypot(park.x - (from.x - from.offsetX), park.y - (from.y - from.offsetY)) : 0;
        const liftMm = park?.liftMm ?? LIFT_MM;
        const share = from.speedPercent / 100;
        way.moves += park ? 4 : 2;
        way.lengthMm += 2 * (liftMm + awayMm);
        way.lowestMm = Math.min(way.lowestMm, from.z);
        way.highestMm = Math.max(way.highestMm, from.z + liftMm);
        way.travelS += (2 * (liftMm / LIFT_MM_S + awayMm / GO_MM_S)) / share;
        way.drawnMm += DRAW_BACK_MM;
        way.standingMm += 2 * DRAW_BACK_MM;
        way.drawnS += (2 * DRAW_BACK_MM) / DRAW_MM_S / share;
        bead.open |= bitsOf("waits", "shows", "says");
        return true;
      },
      meets: (wanted, is) => (wanted.move === paused && is.way.says === wanted.way.says ? "does not stop there" : null),
    };
  },
  apply(edit, context) {
    const { file, printer } = context;
    const { at, park } = edit;
    const scope = layersOf(
      "heightMm" in at ? { fromMm: at.heightMm } : { fromLayer: at.layer, countsFrom: at.countsFrom },
      file,
    );
    if (!scope.ok) return { ...scope, field: "at" };
    const { first } = scope.value;
    if (first === 0) return refuse("Before the first layer nothing is printed yet: pause at a later one.", "at");
    if (park && outsideBedMm(printer, park.x, park.y) > 0)
      return refuse(`X ${park.x}, Y ${park.y} is outside the bed of ${printer.name}.`, "park");
    const layer = file.report.layers[first];
    const liftMm = park?.liftMm ?? LIFT_MM;
    if (layer.zMm + liftMm > printer.buildHeightMm) {
      return refuse(
        `Lifted by ${plainNumber(liftMm)} mm there, the head leaves the ${plainNumber(printer.buildHeightMm)} mm that ${printer.name} builds up to.`,
        "park",
      );
    }
    const state = file.stateBefore(layer.insertByte);
    const splices = new LineSplices(file.report.lineEnd, this.label);
    splices.opening(layer, pauseLines(edit, state, context, first));
    return splices.outcome([]);
  },
};

/** Drawn back, lifted and parked in millimetres; behind the wait everything is as the file counts on it. */
function pauseLines(
  { park, message, beep }: PauseEdit,
  state: MachineState,
  { printer }: EditContext,
  layer: number,
): string[] {
  const number = (value: number) => plainNumber(value, 3);
  const lift = park?.liftMm ?? LIFT_MM;
  const words = onScreen(message?.trim() || "Paused", printer) || "Paused";
  const away = [
    ...(state.unitMm === 1 ? [] : ["G21"]),
    "G91",
    "M83",
    `G1 E-${DRAW_BACK_MM} F${60 * DRAW_MM_S}`,
    `G1 Z${number(lift)} F${60 * LIFT_MM_S}`,
    ...(park ? ["G90", "M83", `G0 X${number(park.x)} Y${number(park.y)} F${60 * GO_MM_S} ; ${PARKS}`] : []),
  ];
  const reading = readingOf(printer);
  const stands = structuredClone(state);
  for (const line of away) follow(stands, line, reading);
  const { tool } = state;
  const fan = reading.fanPerTool ? tool : 0;
  // A person may have changed heat and fan meanwhile: they are said whatever they were.
  stands.nozzleC[tool] = NaN;
  if (state.fanDuty[fan] >= 0) stands.fanDuty[fan] = NOBODY_KNOWS;
  const back = asCounted({ state: stands, drawnMm: DRAW_BACK_MM }, { state, drawnMm: 0 }, printer, {
    waits: true,
    overMm: stands.z,
  });
  return [
    `; cuchara: pause before layer ${layer + 1}`,
    ...away,
    `M117 ${words}`,
    ...(beep ? ["M300 S880 P300"] : []),
    `M0 ${words}`,
    // Where it parked stays where it is, and so does the way back from there.
    ...back,
    "; cuchara: goes on",
  ];
}
