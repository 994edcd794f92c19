/** Names of a sheet and their values: figures in the order they need one another, counters, and what holds along a stroke. */
import { refuse, Refusal, Result, succeed } from "../result";
import { Compiled, compileFormula, Names, Slots } from "./formula";
import type { Expr, Figure } from "./sheet";

/** Names that are always there: along a stroke, its angle, the height and number of its layer, and a band's value. */
export const given = ["t", "a", "z", "layer", "value"] as const;
export type Given = (typeof given)[number];

const MOST_SLOTS = 256;

export class Scope {
  readonly slots: Slots;
  readonly names: Map<string, number>;
  private readonly free: { next: number };

  private constructor(names: Map<string, number>, slots: Slots, free: { next: number }) {
    this.names = names;
    this.slots = slots;
    this.free = free;
  }

  /** The scope of a sheet's figures; refused where one cannot be worked out, or leads back to itself. */
  static of(figures: readonly Figure[]): Result<Scope> {
    const names = new Map<string, number>(given.map((name, slot) => [name, slot]));
    const free = { next: given.length };
    const scope = new Scope(names, new Float64Array(MOST_SLOTS), free);
    for (const [i, { name }] of figures.entries()) {
      if (names.has(name))
        return refuse(`“${name}” is there already: every figure has a name of its own.`, `figures.${i}.name`);
      names.set(name, free.next++);
    }
    const failed = scope.workOut(figures);
    return failed ?? succeed(scope);
  }

  get(name: string): number {
    return this.slots[this.names.get(name)!];
  }

  set(name: string, value: number): void {
    this.slots[this.names.get(name)!] = value;
  }

  /** The same with one name more; a name that is there already is another one inside. */
  with(name: string | undefined): Scope {
    if (name === undefined) return this;
    const names = new Map(this.names);
    names.set(name, this.free.next++ % MOST_SLOTS);
    return new Scope(names, this.slots, this.free);
  }

  compile(text: Expr, field: string): Result<Compiled> {
    const compiled = compileFormula(text, this.names);
    return compiled.ok ? compiled : { ...compiled, field };
  }

  private workOut(figures: readonly Figure[]): Refusal | null {
    const known: Names = this.names;
    const compiled = new Map<string, Compiled>();
    for (const [i, { name, value }] of figures.entries()) {
      const formula = compileFormula(value, known);
      if (!formula.ok) return { ...formula, field: `figures.${i}.value` };
      const along = given.find((one) => formula.value.uses.has(one));
      if (along)
        return refuse(`A figure is one for the whole sheet: “${along}” changes along it.`, `figures.${i}.value`);
      compiled.set(name, formula.value);
    }
    const state = new Map<string, "open" | "done">();
    const way: string[] = [];
    const visit = (name: string): string[] | null => {
      if (state.get(name) === "done") return null;
      way.push(name);
      if (state.get(name) === "open") return way.slice(way.indexOf(name));
      state.set(name, "open");
      const { at, uses } = compiled.get(name)!;
      for (const other of uses) {
        const circle = visit(other);
        if (circle) return circle;
      }
      this.set(name, at(this.slots));
      state.set(name, "done");
      way.pop();
      return null;
    };
    for (const [i, { name }] of figures.entries()) {
      const circle = visit(name);
      if (circle) return refuse(`The figures lead back to themselves: ${circle.join(" → ")}.`, `figures.${i}.value`);
      if (!Number.isFinite(this.get(name))) return refuse(`“${name}” comes to no figure.`, `figures.${i}.value`);
    }
    return null;
  }
}
