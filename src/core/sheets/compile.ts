/** A sheet made ready to be laid: every formula a closure, every row a node. What cannot be read is refused with its row and field. */
import { Result, succeed } from "../result";
import type { SheetBands } from "./bands";
import type { Compiled, Formula } from "./formula";
import { ofTrial, Scope } from "./scope";
import { Expr, isStroke, Item, Laying, Repeat, Sheet } from "./sheet";
import { laidKind } from "./strokes";
import type { Draw } from "./strokes/stroke";

/** A formula, whether it changes from one point of a stroke to the next, and whether with its height. */
export interface Along {
  at: Formula;
  changes: boolean;
  usesHeight: boolean;
}

export interface LayNode {
  kind: "lay";
  /** Where it stands in the sheet (`items.0.items.1`). */
  field: string;
  draw: Draw;
  widthMm: Along;
  heightMm: Along;
  speedMmS: Along;
  flow: Along;
  /** Instead of width and height. */
  filamentPerMm: Along | null;
  z: Along | null;
  retract: boolean | Formula | null;
  /** Null where it is nearest to the nozzle. */
  start: Formula | null;
  /** Null where it is run from the nearer end. */
  reverse: boolean | null;
  fill: { pattern: "rings" | "lines"; angle: Formula; percent: Formula } | null;
  /** A trial's speed is its own, unless its formula takes the band's value itself. */
  followsBands: boolean;
}

export interface RepeatNode {
  kind: "repeat";
  field: string;
  along: Repeat["along"];
  count: Formula;
  spacingMm: Formula;
  centre: [Formula, Formula];
  /** Null where a whole turn is shared. */
  angle: Formula | null;
  /** Slot of its counter; -1 for none. */
  counter: number;
  /** Its copies can be laid from the last to the first: they say no lines, wait nowhere and go nowhere by themselves. */
  mayBeTurned: boolean;
  nodes: SheetNode[];
}

export type SheetNode =
  | LayNode
  | RepeatNode
  | { kind: "group"; nodes: SheetNode[] }
  | { kind: "travel"; field: string; to: [Formula, Formula]; z: Formula | null }
  | { kind: "dwell"; field: string; seconds: Formula }
  | { kind: "lines"; field: string; lines: LineText[] };

/** A line of one's own: its text, and between its parts the formulas that stood in braces. */
export interface LineText {
  texts: string[];
  formulas: Formula[];
}

export interface CompiledSheet {
  scope: Scope;
  nodes: SheetNode[];
}

/** @param bands what a trial gives, or a rehearsal; null where formulas can know no bands */
export function compileSheet(sheet: Sheet, bands: SheetBands | null): Result<CompiledSheet> {
  const scope = Scope.of(sheet.figures, bands);
  if (!scope.ok) return scope;
  const nodes = new SheetCompiler(sheet).items(sheet.items, scope.value, "items");
  return nodes.ok ? succeed({ scope: scope.value, nodes: nodes.value }) : nodes;
}

/** Whether any formula of a sheet asks for values side by side, `band(k)`; no for one that cannot be read. */
export function asksForBands(sheet: Sheet): boolean {
  const compiled = compileSheet(sheet, { edgesMm: [0], values: [1] });
  return compiled.ok && compiled.value.scope.used.has("band");
}

const changing = ["t", "a"] as const;
const withHeight = ["z", "value"] as const;
const alongOf = ({ at, uses }: Compiled): Along => ({
  at,
  changes: changing.some((name) => uses.has(name)),
  usesHeight: withHeight.some((name) => uses.has(name)),
});

const isInOrder = (node: SheetNode): boolean =>
  node.kind === "lines" ||
  node.kind === "dwell" ||
  node.kind === "travel" ||
  ("nodes" in node && node.nodes.some(isInOrder));

class SheetCompiler {
  constructor(private readonly sheet: Sheet) {}

  items(items: readonly Item[], scope: Scope, field: string): Result<SheetNode[]> {
    const nodes: SheetNode[] = [];
    for (const [i, item] of items.entries()) {
      if (item.off) continue;
      const node = this.item(item, scope, `${field}.${i}`);
      if (!node.ok) return node;
      nodes.push(node.value);
    }
    return succeed(nodes);
  }

  private item(item: Item, scope: Scope, field: string): Result<SheetNode> {
    if (item.kind === "repeat") return this.repeat(item, scope, field);
    if (item.kind === "group") {
      const nodes = this.items(item.items, scope, `${field}.items`);
      return nodes.ok ? succeed({ kind: "group", nodes: nodes.value }) : nodes;
    }
    if (item.kind === "lines") return this.lines(item.lines, scope, field);
    if (item.kind === "dwell") {
      const seconds = scope.compile(item.seconds, `${field}.seconds`);
      return seconds.ok ? succeed({ kind: "dwell", field, seconds: seconds.value.at }) : seconds;
    }
    if (item.kind === "travel") {
      const [x, y] = [scope.compile(item.to[0], `${field}.to.0`), scope.compile(item.to[1], `${field}.to.1`)];
      if (!x.ok) return x;
      if (!y.ok) return y;
      const z = item.z === undefined ? null : scope.compile(item.z, `${field}.z`);
      if (z && !z.ok) return z;
      return succeed({ kind: "travel", field, to: [x.value.at, y.value.at], z: z ? z.value.at : null });
    }
    if (!isStroke(item)) throw new Error(`No row is called ${(item as Item).kind}`);
    const draw = laidKind(item.kind)!.compile(item as never, scope, field);
    if (!draw.ok) return draw;
    const laying = this.laying(item, scope, field);
    return laying.ok ? succeed({ kind: "lay", field, draw: draw.value, ...laying.value }) : laying;
  }

  private lines(lines: readonly string[], scope: Scope, field: string): Result<SheetNode> {
    const made: LineText[] = [];
    for (const [i, line] of lines.entries()) {
      const parts = line.split(/\{([^{}]*)\}/);
      const formulas: Formula[] = [];
      for (const [n, part] of parts.entries()) {
        if (n % 2 === 0) continue;
        const formula = scope.compile(part, `${field}.lines.${i}`);
        if (!formula.ok) return formula;
        formulas.push(formula.value.at);
      }
      made.push({ texts: parts.filter((_, n) => n % 2 === 0), formulas });
    }
    return succeed({ kind: "lines", field, lines: made });
  }

  private laying(item: Laying, scope: Scope, field: string): Result<Omit<LayNode, "kind" | "field" | "draw">> {
    const { bead, speedMmS, flow, z, retract, start, reverse, fill } = item;
    const along = (text: Expr, name: string): Result<Along> => {
      const compiled = scope.compile(text, name);
      return compiled.ok ? succeed(alongOf(compiled.value)) : compiled;
    };
    const own = (text: Expr | undefined, usual: Expr, name: string) =>
      along(text ?? usual, text === undefined ? name : `${field}.${name}`);
    const maybe = (text: Expr | undefined, name: string): Result<Along | null> =>
      text === undefined ? succeed(null) : along(text, `${field}.${name}`);
    const isFormula = retract !== undefined && typeof retract !== "boolean";
    const all = combine({
      widthMm: own(bead?.widthMm, this.sheet.bead.widthMm, "bead.widthMm"),
      heightMm: own(bead?.heightMm, this.sheet.bead.heightMm, "bead.heightMm"),
      filamentPerMm: maybe(bead?.filamentPerMm, "bead.filamentPerMm"),
      speedMmS: own(speedMmS, this.sheet.speedMmS, "speedMmS"),
      flow: own(flow, 100, "flow"),
      z: maybe(z, "z"),
      retract: maybe(isFormula ? retract : undefined, "retract"),
      start: maybe(start, "start"),
      angle: along(fill?.angle ?? 0, `${field}.fill.angle`),
      percent: along(fill?.percent ?? 100, `${field}.fill.percent`),
    });
    if (!all.ok) return all;
    const { angle, percent, start: begin, retract: drawn, ...laid } = all.value;
    const speed = scope.compile(speedMmS ?? this.sheet.speedMmS, field);
    return succeed({
      ...laid,
      retract: drawn ? drawn.at : ((retract as boolean | undefined) ?? null),
      start: begin ? begin.at : null,
      reverse: reverse ?? null,
      fill: fill ? { pattern: fill.pattern, angle: angle.at, percent: percent.at } : null,
      followsBands: !speed.ok || ![...speed.value.uses].some((name) => ofTrial.has(name)),
    });
  }

  private repeat(item: Repeat, scope: Scope, field: string): Result<SheetNode> {
    const { along, count = 2, spacingMm = 0, centre = [0, 0], angle, counter, items } = item;
    const of = (text: Expr, name: string) => scope.compile(text, `${field}.${name}`);
    const [often, apart] = [of(count, "count"), of(spacingMm, "spacingMm")];
    const [x, y] = [of(centre[0], "centre.0"), of(centre[1], "centre.1")];
    const turn = angle === undefined ? null : of(angle, "angle");
    for (const one of [often, apart, x, y, turn]) if (one && !one.ok) return one;
    const inner = scope.with(counter);
    const nodes = this.items(items, inner, `${field}.items`);
    if (!nodes.ok) return nodes;
    const at = (one: Result<Compiled>) => (one.ok ? one.value.at : () => NaN);
    return succeed({
      kind: "repeat",
      field,
      along,
      count: at(often),
      spacingMm: at(apart),
      centre: [at(x), at(y)],
      angle: turn ? at(turn) : null,
      counter: counter === undefined ? -1 : inner.names.get(counter)!,
      mayBeTurned: !nodes.value.some(isInOrder),
      nodes: nodes.value,
    });
  }
}

/** All of them, or the first that is refused. */
function combine<T extends Record<string, unknown>>(results: { [K in keyof T]: Result<T[K]> }): Result<T> {
  const values = {} as T;
  for (const name of Object.keys(results) as (keyof T)[]) {
    const one = results[name];
    if (!one.ok) return one;
    values[name] = one.value;
  }
  return succeed(values);
}
