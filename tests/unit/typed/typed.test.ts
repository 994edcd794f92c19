/** Programs written from nothing: read, checked, begun from snippets, and tried on the simulated printer. */
import { completions } from "@/core/machine/commands";
import { checkTyped } from "@/core/typed/checks";
import { readTyped } from "@/core/typed/facts";
import { snippets } from "@/core/typed/snippets";
import { TryOut } from "@/core/typed/try-out";
import { bedCentre, outsideBedMm, Printer } from "@/core/shelf/printer";
import { ladle, printers } from "../helpers/demo";

const checksOf = (text: string, printer: Printer = ladle) => {
  const { tables, facts } = readTyped(text, printer);
  return checkTyped(facts, tables, printer);
};
const found = (text: string) => checksOf(text).map(({ check }) => check);

test("commands that are not known are named, and nothing else is", () => {
  const [finding] = checksOf("G28\nM7777\nMAKE_SOUP\nM105\n").filter(({ check }) => check === "unknown-commands");
  expect(finding).toMatchObject({ severity: "note", where: "the program" });
  expect(finding.message).toContain("“M7777”");
  expect(finding.message).toContain("“MAKE_SOUP”");
  expect(finding.message).not.toContain("M105");
});

test.each([
  ["moving before homing", "G90\nG0 X10 Y10\n", "unhomed", "line 2"],
  ["through the bed", "G28\nG90\nG0 Z5\nG0 Z-1\n", "below-bed", "line 4"],
  ["outside the bed", "G28\nG90\nG0 X900 Y10\n", "outside-bed", "line 3"],
  ["cold feed", "G28\nM83\nG1 E10 F100\n", "cold-extrusion", "line 3"],
  ["relative left on", "G28\nG91\nG0 X1\n", "relative-left", "line 2"],
  ["units changed", "G28\nG20\nG90\n", "inches-left", "line 2"],
  ["heaters left on", "M104 S200\nG28\n", "left-on", "end of the file"],
])("%s is found with its line", (_, text, check, where) => {
  const finding = checksOf(text).find((one) => one.check === check);
  expect(finding?.where).toBe(where);
});

test("a program that ends as it should is clean, and a place that was named needs no homing", () => {
  expect(found("G28\nG91\nG0 Z5\nG90\nG0 X10 Y10\n")).toEqual([]);
  expect(found("G92 X0 Y0 Z0\nG90\nG0 X5 Y5 Z5\n")).toEqual([]);
  expect(found("")).toEqual([]);
});

test.each(printers.map((printer) => [printer.name, printer] as const))(
  "every snippet does on %s what it says, without a stop, and leaves it counting from zero in millimetres",
  (_, printer) => {
    for (const { name, lines } of snippets) {
      const text = `${lines(printer).join("\n")}\n`;
      const stops = checksOf(text, printer).filter(({ severity }) => severity !== "note");
      expect([name, stops.filter(({ check }) => check !== "left-on")]).toEqual([name, []]);
      const { tables } = readTyped(text, printer);
      for (let i = 1; i < tables.moves.count; i++) {
        expect(outsideBedMm(printer, tables.moves.x[i], tables.moves.y[i])).toBeLessThanOrEqual(0.01);
      }
    }
  },
);

test("the square of relative moves is 20 mm wide round the middle, and ends there: by hand", () => {
  const { tables } = readTyped(snippets[1].lines(ladle).join("\n"), ladle);
  const { x, y } = bedCentre(ladle);
  const { moves } = tables;
  const places = Array.from({ length: moves.count }, (_, i) => [moves.x[i] - x, moves.y[i] - y]).slice(-6);
  expect(places).toEqual([
    [-10, -10],
    [10, -10],
    [10, 10],
    [-10, 10],
    [-10, -10],
    [0, 0],
  ]);
});

test("tried line by line the simulated printer goes where the text says, and answers", () => {
  const lines = snippets[0].lines(ladle);
  const of = new TryOut(ladle, lines);
  while (!of.isDone) of.step();
  const { place, talk, seconds, isHalted } = of.state;
  const middle = bedCentre(ladle);
  expect(place).toMatchObject({ x: middle.x, y: middle.y });
  expect(talk.map(({ sent }) => sent)[0]).toBe("G28");
  expect(talk.every(({ heard }) => heard.some((one) => one.startsWith("ok")))).toBe(true);
  // Homing and a way of 150 mm at 100 mm/s take seconds, not none.
  expect(seconds).toBeGreaterThan(1.5);
  expect(isHalted).toBe(false);
});

test("heat is waited for as long as the printer's own rate takes, and a question to a person is passed with a word", () => {
  const of = new TryOut(ladle, ["M109 S200", "M0 look", "M104 S0"]);
  of.step();
  expect(of.state.nozzleC).toBeGreaterThan(195);
  expect(of.state.seconds).toBeGreaterThan((200 - 25) / (ladle.heaterRiseCPerS * 1.6));
  of.step();
  expect(of.state.waits).toBe(true);
  of.step();
  expect(of.isDone).toBe(true);
});

test("a beginning completes itself by code and by meaning", () => {
  expect(completions("G9").map(({ code }) => code)).toContain("G92");
  expect(completions("fan").map(({ code }) => code)).toContain("M106");
});
