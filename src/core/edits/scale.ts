/** What scaling speed and scaling flow have in common: some kinds of line, between two places, rewritten or set round with factors. */
import { z } from "zod";
import { LineKindName, lineKindNames, kindsOf } from "../laid/kinds";
import { refuse } from "../result";
import { EventKind } from "../machine/event-kind";
import { bitOf, slotOf } from "../trace/fields";
import { plainNumber, roundTo } from "../units";
import type { EditContext, EditKind } from "./edit";
import { LineSplices } from "./line-splice";
import { LineKindFinder } from "./line-kinds";
import { asItIs, MoveRewriter, Share } from "./rewrite-moves";
import { WayTimes } from "./way-times";
import { layersOf, PlaceFinder, Scope, scopeFields, ScopeLayers } from "./scope";

export const scaledKinds = [...(Object.keys(lineKindNames) as LineKindName[]), "travel"] as const;
export type ScaledKind = (typeof scaledKinds)[number];

export interface ScaleEdit<K extends "scale-speed" | "scale-flow"> extends Scope {
  kind: K;
  percent: number;
  /** Which kinds of line; all that lay material if left out. */
  lines?: ScaledKind[];
  /** The moves themselves are rewritten, or factor commands (M220, M221) are set round them. */
  by?: "lines" | "factors";
}

function schemaOf<K extends "scale-speed" | "scale-flow">(
  kind: K,
  kinds: readonly ScaledKind[],
): z.ZodType<ScaleEdit<K>> {
  return z.strictObject({
    kind: z.literal(kind),
    percent: z.number({ error: "A percentage is a number" }).min(10, "At least 10 %").max(500, "At most 500 %"),
    lines: z
      .array(z.enum(kinds as [ScaledKind, ...ScaledKind[]], { error: `A kind of line is one of ${kinds.join(", ")}` }))
      .min(1, "Say which kinds of line, or leave it out for all of them")
      .optional(),
    by: z.enum(["lines", "factors"], { error: "By lines or by factors" }).optional(),
    ...scopeFields,
  }) as unknown as z.ZodType<ScaleEdit<K>>;
}

/** An edit that scales: its key, what it is called, the kinds of line it can be about, and what becomes of a move. */
export function scaling<K extends "scale-speed" | "scale-flow">(
  kind: K,
  label: string,
  kinds: readonly ScaledKind[],
  shareOf: (percent: number) => Share,
): EditKind<ScaleEdit<K>> {
  return {
    label,
    scopeIn: "edit",
    ...(kind === "scale-flow" ? { writesFilament: true as const } : {}),
    schema: schemaOf(kind, kinds),
    asks(edit, context) {
      const scope = layersOf(edit, context.file);
      if (!scope.ok || edit.percent === 100) return {};
      const isWanted = wantedKinds(edit, context, scope.value);
      const share = shareOf(edit.percent);
      const travels = edit.lines?.includes("travel") ? new WayTimes(context.file) : null;
      const inScope = (layer: number) => layer >= 0 && scope.value.holds(layer);
      return {
        bead(bead) {
          if (edit.by === "factors") bead.open |= bitOf.factors;
          const { layer } = bead;
          const travelShare = edit.by === "factors" ? asFactor(bead.set[FEED_FACTOR], share.feed) : share.feed;
          travels?.retime(bead, (of, feedMmS) => (inScope(of) ? feedMmS * travelShare : feedMmS));
          if (!isWanted(bead.line, true, false) || !inScope(layer)) return true;
          bead.feedMmS *= edit.by === "factors" ? asFactor(bead.set[FEED_FACTOR], share.feed) : share.feed;
          const ownFlow = bead.set[slotOf(EventKind.flowFactor, bead.tool)];
          bead.filamentMm *= edit.by === "factors" ? asFactor(ownFlow, share.flow) : share.flow;
          return true;
        },
        end: (end) => void (end.open |= (edit.by === "factors" ? bitOf.factors : 0) | (travels ? bitOf.travelFeed : 0)),
      };
    },
    apply(edit, context) {
      const { file, printer } = context;
      const scope = layersOf(edit, file);
      if (!scope.ok) return scope;
      const splices = new LineSplices(file.report.lineEnd, label, { goesAlong: true });
      const place = new PlaceFinder(file);
      const isWanted = wantedKinds(edit, context, scope.value);
      const share = shareOf(edit.percent);
      const rewriter = new MoveRewriter(
        (line, lays, goes) =>
          place.part === "print" && scope.value.holds(place.layer) && isWanted(line, lays, goes) ? share : asItIs,
        splices,
        place,
        edit.by,
      );
      if (edit.percent !== 100) file.follow(rewriter);
      if (edit.percent !== 100 && rewriter.rewritten === 0) {
        return refuse("No line of that kind is laid there: choose another kind, or other layers.", "lines");
      }
      const { mm3S, line } = rewriter.peak;
      const most = printer.highestFlowMm3S;
      const findings =
        mm3S > most * 1.005
          ? [
              {
                check: "beyond-flow",
                severity: "warn" as const,
                where: `line ${line + 1}`,
                message: `Up to ${plainNumber(mm3S, 1)} mm³/s would be asked for there; the hot end of ${printer.name} melts about ${plainNumber(most, 1)} mm³/s.`,
              },
            ]
          : [];
      return splices.outcome(findings, { mustAll: true });
    },
  };
}

const FEED_FACTOR = slotOf(EventKind.speedFactor, 0);

/** A share as a factor has it that is said with one decimal. */
function asFactor(ownPercent: number, share: number): number {
  const own = ownPercent > 0 ? ownPercent : 100;
  return roundTo(own * share, 1) / own;
}

/** Which moves an edit is about, asked with rising lines, within its layers. */
function wantedKinds(
  { lines }: ScaleEdit<"scale-speed" | "scale-flow">,
  { file }: EditContext,
  { spans }: ScopeLayers,
) {
  if (!lines) return (_line: number, lays: boolean, _goes: boolean) => lays;
  const tables = file.tables();
  const wanted = new Set<number>(lines.flatMap((name) => (name === "travel" ? [] : [lineKindNames[name]])));
  const travels = lines.includes("travel");
  let { kind } = tables.moves;
  for (const { first, last } of spans) kind = kindsOf(tables, undefined, { from: first, to: last + 1 }).kind;
  const finder = new LineKindFinder(tables.moves, kind);
  return (line: number, lays: boolean, goes: boolean) => (lays ? wanted.has(finder.kindAt(line)) : travels && goes);
}

/** Kinds of line that lay material. */
export const laidKinds = scaledKinds.filter((kind) => kind !== "travel");
