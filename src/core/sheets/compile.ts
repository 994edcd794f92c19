/** A sheet made ready to be laid: every formula a closure, every row a node. What cannot be read is refused with its row and field. */
import { Result, succeed } from "../result";
import type { Compiled, Formula } from "./formula";
import { Scope } from "./scope";
import { Bead, Expr, isStroke, Item, Laying, Repeat, Sheet } from "./sheet";
import { laidKind } from "./strokes";
import type { Draw } from "./strokes/stroke";

/** A formula, and whether it changes from one point of a stroke to the next. */
export interface Along {
  at: Formula;
  changes: boolean;
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
  z: Along | null;
  retract: boolean | null;
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
  nodes: SheetNode[];
}

export type SheetNode =
  | LayNode
  | RepeatNode
  | { kind: "group"; nodes: SheetNode[] }
  | { kind: "travel"; field: string; to: [Formula, Formula]; z: Formula | null }
  | { kind: "dwell"; field: string; seconds: Formula }
  | { kind: "lines"; lines: string[] };

export interface CompiledSheet {
  scope: Scope;
  nodes: SheetNode[];
}

export function compileSheet(sheet: Sheet): Result<CompiledSheet> {
  const scope = Scope.of(sheet.figures);
  if (!scope.ok) return scope;
  const nodes = new SheetCompiler(sheet).items(sheet.items, scope.value, "items");
  return nodes.ok ? succeed({ scope: scope.value, nodes: nodes.value }) : nodes;
}

const changing = ["t", "a"] as const;
const alongOf = ({ at, uses }: Compiled): Along => ({ at, changes: changing.some((name) => uses.has(name)) });

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
    if (item.kind === "lines") return succeed({ kind: "lines", lines: item.lines });
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

  private laying(
    { bead, speedMmS, flow, z, retract }: Laying,
    scope: Scope,
    field: string,
  ): Result<Pick<LayNode, "widthMm" | "heightMm" | "speedMmS" | "flow" | "z" | "retract">> {
    const one = (own: Expr | undefined, usual: Expr, name: string): Result<Along> => {
      const compiled = scope.compile(own ?? usual, own === undefined ? name : `${field}.${name}`);
      return compiled.ok ? succeed(alongOf(compiled.value)) : compiled;
    };
    const beadOf = (name: keyof Bead) => one(bead?.[name], this.sheet.bead[name], `bead.${name}`);
    const [width, height] = [beadOf("widthMm"), beadOf("heightMm")];
    if (!width.ok) return width;
    if (!height.ok) return height;
    const [speed, amount] = [one(speedMmS, this.sheet.speedMmS, "speedMmS"), one(flow, 100, "flow")];
    if (!speed.ok) return speed;
    if (!amount.ok) return amount;
    const up = z === undefined ? null : one(z, z, "z");
    if (up && !up.ok) return up;
    return succeed({
      widthMm: width.value,
      heightMm: height.value,
      speedMmS: speed.value,
      flow: amount.value,
      z: up ? up.value : null,
      retract: retract ?? null,
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
      nodes: nodes.value,
    });
  }
}
