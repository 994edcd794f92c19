/** Names of a sheet and their values: figures in the order they need one another, counters, and what holds along a stroke. */
import { refuse, Refusal, Result, succeed } from "../result";
import type { SheetBands } from "./bands";
import { BAND_SLOTS, BANDS_SLOT, Compiled, compileFormula, Names, Slots } from "./formula";
import type { Expr, Figure } from "./sheet";

/** Names that are always there: along a stroke, its angle, the height and number of its layer, a band's value, and how many bands there are. */
export const given = ["t", "a", "z", "layer", "value", "bands"] as const;
export type Given = (typeof given)[number];
/** What only a trial tells, or a rehearsal. */
export const ofTrial: ReadonlySet<string> = new Set(["value", "bands", "band"]);

/** Names, the bands' values, figures and counters: a sheet has at most 50 of these and 2,000 of those. */
const MOST_SLOTS = 4096;

const isGiven = (name: string): boolean => (given as readonly string[]).includes(name) || ofTrial.has(name);

export class Scope {
  readonly slots: Slots;
  readonly names: Map<string, number>;
  /** Names that any formula of the sheet used. */
  readonly used: Set<string>;
  private readonly free: { next: number; used: Set<string> };

  private constructor(
    names: Map<string, number>,
    slots: Slots,
    free: { next: number; used: Set<string> },
    private readonly hasBands: boolean,
  ) {
    this.names = names;
    this.slots = slots;
    this.free = free;
    this.used = free.used;
  }

  /** The scope of a sheet's figures; refused where one cannot be worked out, or leads back to itself. */
  static of(figures: readonly Figure[], bands: SheetBands | null = null): Result<Scope> {
    const names = new Map<string, number>(given.map((name, slot) => [name, slot]));
    const free = { next: BAND_SLOTS.first + BAND_SLOTS.most, used: new Set<string>() };
    const scope = new Scope(names, new Float64Array(MOST_SLOTS), free, bands !== null);
    if (bands) {
      scope.slots[BANDS_SLOT] = bands.values.length;
      scope.slots.set(bands.values.slice(0, BAND_SLOTS.most), BAND_SLOTS.first);
      scope.set("value", bands.values[0] ?? NaN);
    }
    for (const [i, { name }] of figures.entries()) {
      if (names.has(name) || isGiven(name))
        return refuse(`“${name}” is there already: every number needs its own name.`, `figures.${i}.name`);
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
    names.set(name, this.free.next++);
    return new Scope(names, this.slots, this.free, this.hasBands);
  }

  compile(text: Expr, field: string): Result<Compiled> {
    const compiled = compileFormula(text, this.names);
    if (!compiled.ok) return { ...compiled, field };
    for (const name of compiled.value.uses) this.used.add(name);
    const unsaid = this.hasBands ? undefined : [...compiled.value.uses].find((name) => ofTrial.has(name));
    if (unsaid === undefined) return compiled;
    return refuse(
      `“${unsaid}” is what a trial gives its bands: rehearse it here, or make a trial of the sheet.`,
      field,
    );
  }

  private workOut(figures: readonly Figure[]): Refusal | null {
    const known: Names = this.names;
    const compiled = new Map<string, Compiled>();
    for (const [i, { name, value }] of figures.entries()) {
      const formula = compileFormula(value, known);
      if (!formula.ok) return { ...formula, field: `figures.${i}.value` };
      const along = [...formula.value.uses].find((one) => isGiven(one));
      if (along)
        return refuse(`A number is the same for the whole sheet: “${along}” changes along it.`, `figures.${i}.value`);
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
      if (circle)
        return refuse(`The numbers depend on each other in a circle: ${circle.join(" → ")}.`, `figures.${i}.value`);
      if (!Number.isFinite(this.get(name))) return refuse(`“${name}” has no value.`, `figures.${i}.value`);
    }
    return null;
  }
}
