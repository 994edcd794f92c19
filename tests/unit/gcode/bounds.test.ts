/** Programs made to be large: each bound of `gcode/bounds.ts` is one that a reader meets without filling the memory. */
import { MOST_EVENTS, MOST_LAYERS, tooMuch } from "@/core/gcode/bounds";
import { ProgramReader } from "@/core/gcode/read";
import { bytesOf } from "../helpers/programs";

test("a program of too many layers is told so", () => {
  const lines = ["G28", "M83"];
  for (let i = 1; i <= MOST_LAYERS + 5; i++) lines.push(`G0 Z${(i * 0.1).toFixed(1)}`, "G1 X10 E1", "G1 X0 E1");
  const reader = new ProgramReader();
  reader.push(bytesOf(`${lines.join("\n")}\n`));
  expect(tooMuch(reader.finish())).toMatch(/It has 30 00\d layers; 30 000 are the most/);
});

test("settings beyond the bound are passed over, and the program is told so", () => {
  const reader = new ProgramReader();
  const chunk = bytesOf("M104 S200\nM104 S201\n".repeat(50_000));
  for (let i = 0; i * 100_000 <= MOST_EVENTS; i++) reader.push(chunk);
  const tables = reader.finish();
  expect(tables.events.count).toBe(MOST_EVENTS);
  expect(tooMuch(tables)).toMatch(/1 000 000 times or more/);
});

test("arcs of a kilometre in a small file do not become a large table", () => {
  const reader = new ProgramReader();
  reader.push(bytesOf("G28\nM83\nG0 X50 Y50 Z0.2\n"));
  const chunk = bytesOf("G2 X50 Y50 I1000000 J0 E1\n".repeat(1000));
  for (let i = 0; i < 20; i++) reader.push(chunk);
  const { moves, lineCount } = reader.finish();
  expect(lineCount).toBe(20_003);
  // Two thousand chords each would be forty million.
  expect(moves.count).toBeLessThan(8_100_000);
});

test("tools and fans that no printer has are followed nowhere", () => {
  const reader = new ProgramReader();
  reader.push(bytesOf("M106 P30000000 S0\nM104 T100000000 S0\nM104 T-1 S200\nM106 P1.5 S9\n"));
  const { endState, events } = reader.finish();
  expect([endState.nozzleC.length, endState.fanDuty.length]).toEqual([0, 0]);
  expect(Array.from(events.tool).every((tool) => tool < 32)).toBe(true);
});
