/** Formulas: the usual notation, held against the library itself, and nothing that reaches beyond it. */
import fc from "fast-check";
import { evaluate } from "mathjs";
import { compileFormula } from "@/core/sheets/formula";

const names = new Map([
  ["r", 0],
  ["t", 1],
  ["turns", 2],
]);
const slots = Float64Array.from([8, 0.25, 3]);

const valueOf = (text: string) => {
  const compiled = compileFormula(text, names);
  if (!compiled.ok) throw new Error(compiled.message);
  return compiled.value.at(slots);
};
const refusedWith = (text: string) => {
  const compiled = compileFormula(text, names);
  return compiled.ok ? null : compiled.message;
};

test.each([
  "1 + 2 * 3",
  "2 ^ 3 ^ 2",
  "-2 ^ 2",
  "2 pi",
  "2*r + 0.4",
  "sin(2*pi*turns*t)",
  "20+80*t",
  "60+5*sin(2*pi*4*t)",
  "r > 5 ? 1 : 2",
  "r < 5 ? 1 : t < 0.5 ? 7 : 9",
  "min(r, 3, t)",
  "atan2(3, 4)",
  "sqrt(r^2 + t^2)",
  "abs(-r) + floor(2.7) + ceil(2.1) + round(2.5)",
  "mod(7, 3) + 7 % 3",
  "1e-3 + 1.5e2",
  "log10(1000) + log(e) + exp(0)",
  "hypot(3, 4)",
])("“%s” is what the library makes of it", (text) => {
  const wanted = evaluate(text, { r: 8, t: 0.25, turns: 3 }) as number;
  expect(valueOf(text)).toBeCloseTo(wanted, 12);
});

test("angles are radians, and deg is one degree", () => {
  expect(valueOf("sin(30 deg)")).toBeCloseTo(0.5, 12);
  expect(valueOf("sin(pi/6)")).toBeCloseTo(0.5, 12);
});

test("what is wrong is said with what was meant", () => {
  expect(refusedWith("turn * 2")).toContain("is “turns” meant?");
  expect(refusedWith("sinn(r)")).toContain("is “sin” meant?");
  expect(refusedWith("sin(1, 2)")).toContain("“sin” takes 1 figures, not 2.");
  expect(refusedWith("2 * (3")).toContain("cannot be read");
  expect(refusedWith("")).toContain("There is no formula");
  expect(refusedWith("1/0")).toContain("is not a number");
});

// Ways out of a formula: into prototypes, the host, other languages, loops, memory. None may be read as anything.
const attacks = [
  "constructor",
  "__proto__",
  "prototype",
  "toString",
  "hasOwnProperty",
  "valueOf",
  "constructor.constructor('return process')()",
  "r.constructor",
  "r.__proto__",
  "t['constructor']",
  "(1).constructor",
  "sin.constructor",
  "sin['call']",
  "sin.call(1)",
  "cos.apply(0, [1])",
  "sin.bind(1)",
  "f(x) = x",
  "f(x) = f(x)",
  "x = 5",
  "r = 1",
  "r += 1",
  "a; b",
  "1; 2",
  "1\n2",
  "[1, 2, 3]",
  "[1,2][1]",
  "{a: 1}",
  "{a: 1}.a",
  "'text'",
  '"text"',
  "`text`",
  'import("fs")',
  "import({sin: 1})",
  "require('fs')",
  "process",
  "process.exit()",
  "process.env",
  "globalThis",
  "global",
  "window",
  "self",
  "this",
  "eval('1')",
  "evaluate('1')",
  "parse('1')",
  "compile('1')",
  "simplify('x')",
  "derivative('x', 'x')",
  "createUnit('foo')",
  "config({})",
  "chain(1)",
  "typed()",
  "Function('return 1')()",
  "new Function()",
  "while(true){}",
  "for(;;){}",
  "do{}while(1)",
  "1:1000000000",
  "zeros(1000000000)",
  "ones(1e9)",
  "range(0, 1e9)",
  "factorial(1e9)",
  "map([1], sin)",
  "random()",
  "fetch('/')",
  "Symbol('x')",
  "Proxy",
  "Reflect",
  "Object.keys(r)",
  "JSON.stringify(r)",
  "setTimeout(1)",
  "async()",
  "await r",
  "yield r",
  "r => r",
  "(x) => x",
  "...r",
  "r?.x",
  "5 cm",
  "3 kg to g",
  "2i",
  "i",
  "null",
  "undefined",
  "Infinity - Infinity",
  "version",
  "help(sin)",
  "print('x', {})",
  "format(r)",
];

test("none of them is a formula", () => {
  expect(attacks.length).toBeGreaterThanOrEqual(60);
  const read = attacks.filter((text) => compileFormula(text, names).ok);
  expect(read).toEqual([]);
});

test("endless formulas are refused in no time, and any text at all is a figure or a sentence", () => {
  expect(refusedWith("1+".repeat(400) + "1")).toContain("at most 500 characters");
  expect(refusedWith(`${"(".repeat(220)}1${")".repeat(220)}`)).toBeNull();
  fc.assert(
    fc.property(fc.string({ maxLength: 60 }), (text) => {
      const compiled = compileFormula(text, names);
      if (compiled.ok) expect(typeof compiled.value.at(slots)).toBe("number");
      else expect(compiled.message.length).toBeGreaterThan(5);
    }),
    { numRuns: 400 },
  );
});
