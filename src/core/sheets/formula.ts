/**
 * Formulas in the notation of an ordinary mathematics library (mathjs), made into closures over one array of figures. Only what is named
 * here can be said: figures, the usual functions, arithmetic, comparison and choice. Nothing is ever evaluated as code.
 */
import { create, parseDependencies } from "mathjs/number";
import type { MathNode } from "mathjs";
import { refuse, Result, succeed } from "../result";

/** The parser alone, of all the library has. */
const { parse } = create(parseDependencies);

/** The figures of all names while a sheet is laid, by the slot of each. */
export type Slots = Float64Array;
export type Formula = (slots: Slots) => number;

/** Names that may stand in a formula, each with its slot. */
export type Names = ReadonlyMap<string, number>;

/** Slots of the bands' values, which `band(k)` looks up: the first of them, and how many there can be. */
export const BAND_SLOTS = { first: 8, most: 200 };
/** Slot of the number of bands. */
export const BANDS_SLOT = 5;

const LONGEST_LETTERS = 500;
const MOST_NODES = 400;

const constants: Record<string, number> = {
  pi: Math.PI,
  tau: 2 * Math.PI,
  e: Math.E,
  /** One degree in radians: `sin(30 deg)`. */
  deg: Math.PI / 180,
};

const functions: Record<string, { least: number; most: number; of: (...values: number[]) => number }> = {
  sin: { least: 1, most: 1, of: Math.sin },
  cos: { least: 1, most: 1, of: Math.cos },
  tan: { least: 1, most: 1, of: Math.tan },
  asin: { least: 1, most: 1, of: Math.asin },
  acos: { least: 1, most: 1, of: Math.acos },
  atan: { least: 1, most: 1, of: Math.atan },
  atan2: { least: 2, most: 2, of: Math.atan2 },
  sqrt: { least: 1, most: 1, of: Math.sqrt },
  cbrt: { least: 1, most: 1, of: Math.cbrt },
  abs: { least: 1, most: 1, of: Math.abs },
  sign: { least: 1, most: 1, of: Math.sign },
  exp: { least: 1, most: 1, of: Math.exp },
  log: { least: 1, most: 1, of: Math.log },
  log10: { least: 1, most: 1, of: Math.log10 },
  floor: { least: 1, most: 1, of: Math.floor },
  ceil: { least: 1, most: 1, of: Math.ceil },
  round: { least: 1, most: 1, of: Math.round },
  min: { least: 1, most: 8, of: Math.min },
  max: { least: 1, most: 8, of: Math.max },
  hypot: { least: 1, most: 8, of: Math.hypot },
  pow: { least: 2, most: 2, of: Math.pow },
  mod: { least: 2, most: 2, of: (a, b) => a - b * Math.floor(a / b) },
};

/** What can be called, and what is always there: for those who offer them. */
export const functionNames = [...Object.keys(functions), "band"];
export const constantNames = Object.keys(constants);

const binary: Record<string, (a: Formula, b: Formula) => Formula> = {
  "+": (a, b) => (slots) => a(slots) + b(slots),
  "-": (a, b) => (slots) => a(slots) - b(slots),
  "*": (a, b) => (slots) => a(slots) * b(slots),
  "/": (a, b) => (slots) => a(slots) / b(slots),
  "^": (a, b) => (slots) => a(slots) ** b(slots),
  "%": (a, b) => (slots) => functions.mod.of(a(slots), b(slots)),
  "<": (a, b) => (slots) => (a(slots) < b(slots) ? 1 : 0),
  ">": (a, b) => (slots) => (a(slots) > b(slots) ? 1 : 0),
  "<=": (a, b) => (slots) => (a(slots) <= b(slots) ? 1 : 0),
  ">=": (a, b) => (slots) => (a(slots) >= b(slots) ? 1 : 0),
  "==": (a, b) => (slots) => (a(slots) === b(slots) ? 1 : 0),
  "!=": (a, b) => (slots) => (a(slots) !== b(slots) ? 1 : 0),
};

export interface Compiled {
  at: Formula;
  /** Names it uses. */
  uses: ReadonlySet<string>;
  /** It uses no names at all: its value. */
  constant: number | null;
}

/** A formula as a closure; refused with what is wrong and where in its text. */
export function compileFormula(text: string | number, names: Names): Result<Compiled> {
  if (typeof text === "number") return succeed({ at: () => text, uses: new Set(), constant: text });
  if (text.trim() === "") return refuse("There is no formula: write a number or a sum.");
  if (text.length > LONGEST_LETTERS) return refuse(`A formula has at most ${LONGEST_LETTERS} characters.`);
  let root: MathNode;
  try {
    root = parse(text);
  } catch (error) {
    const at = (error as { char?: number }).char;
    return refuse(`“${text}” cannot be read${at ? ` from letter ${at} on` : ""}.`);
  }
  const compiler = new Compiler(names);
  const at = compiler.compile(root);
  if (compiler.problem !== null) return refuse(`In “${text}”: ${compiler.problem}`);
  const constant = compiler.uses.size === 0 ? at!(new Float64Array(0)) : null;
  if (constant !== null && !Number.isFinite(constant)) return refuse(`“${text}” is not a number.`);
  return succeed({ at: at!, uses: compiler.uses, constant });
}

/** What the parser gives, as far as it is looked at: the kind of a node and its parts. */
interface Node {
  type: string;
  value?: unknown;
  name?: string;
  op?: string;
  args?: Node[];
  content?: Node;
  fn?: Node;
  condition?: Node;
  trueExpr?: Node;
  falseExpr?: Node;
}

class Compiler {
  problem: string | null = null;
  readonly uses = new Set<string>();
  private nodes = 0;

  constructor(private readonly names: Names) {}

  compile(root: MathNode): Formula | null {
    const made = this.node(root as unknown as Node);
    return this.problem === null ? made : null;
  }

  private fail(problem: string): Formula {
    this.problem ??= problem;
    return () => NaN;
  }

  private node(node: Node): Formula {
    if (++this.nodes > MOST_NODES) return this.fail("it is longer than a formula may be.");
    switch (node.type) {
      case "ConstantNode": {
        const { value } = node;
        return typeof value === "number" ? () => value : this.fail("only numbers and names can be used there.");
      }
      case "ParenthesisNode":
        return this.node(node.content!);
      case "SymbolNode":
        return this.symbol(node.name!);
      case "OperatorNode":
        return this.operator(node);
      case "FunctionNode":
        return this.call(node);
      case "ConditionalNode": {
        const [condition, yes, no] = [node.condition!, node.trueExpr!, node.falseExpr!].map((one) => this.node(one));
        return (slots) => (condition(slots) !== 0 ? yes(slots) : no(slots));
      }
      default:
        return this.fail("a formula can only have numbers, names, sums, functions and “condition ? one : other”.");
    }
  }

  private symbol(name: string): Formula {
    const slot = this.names.get(name);
    if (slot !== undefined) {
      this.uses.add(name);
      return (slots) => slots[slot];
    }
    if (Object.hasOwn(constants, name)) {
      const value = constants[name];
      return () => value;
    }
    const meant = nearestName(name, [...this.names.keys(), ...Object.keys(constants)]);
    return this.fail(`there is no “${name}”${meant ? `; is “${meant}” meant?` : "."}`);
  }

  private operator({ op = "", args = [] }: Node): Formula {
    const parts = args.map((one) => this.node(one));
    if (parts.length === 1 && op === "-") return (slots) => -parts[0](slots);
    if (parts.length === 1 && op === "+") return parts[0];
    if (parts.length === 2 && Object.hasOwn(binary, op)) return binary[op](parts[0], parts[1]);
    return this.fail(`“${op}” cannot be said in a formula.`);
  }

  /** `band(k)`: the value of a trial's band, from 0 at the bottom; the first or last one's outside. */
  private band(args: Node[]): Formula {
    if (args.length !== 1) return this.fail(`“band” takes 1 figure, not ${args.length}.`);
    const which = this.node(args[0]);
    this.uses.add("band");
    return (slots) => slots[BAND_SLOTS.first + Math.max(0, Math.min(slots[BANDS_SLOT] - 1, Math.round(which(slots))))];
  }

  private call({ fn, args = [] }: Node): Formula {
    const name = fn?.type === "SymbolNode" ? fn.name! : "";
    if (name === "band") return this.band(args);
    if (!Object.hasOwn(functions, name)) {
      const meant = nearestName(name, functionNames);
      return this.fail(`there is no function “${name}”${meant ? `; is “${meant}” meant?` : "."}`);
    }
    const { least, most, of } = functions[name];
    if (args.length < least || args.length > most) {
      return this.fail(
        `“${name}” takes ${least === most ? least : `${least} to ${most}`} figures, not ${args.length}.`,
      );
    }
    const parts = args.map((one) => this.node(one));
    if (parts.length === 1) {
      const [one] = parts;
      return (slots) => of(one(slots));
    }
    if (parts.length === 2) {
      const [a, b] = parts;
      return (slots) => of(a(slots), b(slots));
    }
    return (slots) => of(...parts.map((part) => part(slots)));
  }
}

/** The known name that differs by a letter or two; null if none is near. */
function nearestName(name: string, known: readonly string[]): string | null {
  let best: string | null = null;
  let least = Math.min(3, Math.ceil(name.length / 2) + 1);
  for (const one of known) {
    const differs = lettersApart(name.toLowerCase(), one.toLowerCase());
    if (differs < least) {
      least = differs;
      best = one;
    }
  }
  return best;
}

/** Letters that must be changed, put in or left out to make one word of another (Levenshtein, 1966). */
function lettersApart(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++) {
      next[j] = Math.min(row[j] + 1, next[j - 1] + 1, row[j - 1] + (a[i - 1] === b[j - 1] ? 0 : 1));
    }
    row = next;
  }
  return row[b.length];
}
