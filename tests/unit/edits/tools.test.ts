/** Two materials in one file: heats and fans by tool, another tool in the place of one, waits as comments, all heaters off. */
import { Edit, editsSchema } from "@/core/edits";
import { edited, tryEdits } from "../helpers/edits";
import { printers } from "../helpers/demo";

const twin = printers.find(({ tools }) => tools === 2)!;
const one = (edit: unknown): Edit[] => editsSchema.parse([edit]);

/** Three layers, each begun by tool 0 and ended by tool 1; one heater is left on, as such files have it. */
function twoTools(): string {
  const lines = ["M140 S60", "M104 T0 S210", "M104 T1 S210", "M109 T0 S210", "M109 T1 S210", "G28", "G90", "M83", "T0"];
  for (let i = 1; i <= 3; i++) {
    lines.push(`; layer ${i}`, `G0 X80 Y80 Z${(i * 0.2).toFixed(2)} F6000`);
    if (i === 2) lines.push("M106 S255", "M109 T1 S205");
    for (const tool of [0, 1]) {
      lines.push(`T${tool}`, `G0 X${80 + tool * 30} Y80`);
      for (const [x, y] of [
        [20, 0],
        [20, 20],
        [0, 20],
        [0, 0],
      ])
        lines.push(`G1 X${80 + tool * 30 + x} Y${80 + y} E0.66 F1800`);
    }
  }
  return [...lines, "M107", "M104 T0 S0", "M84", ""].join("\n");
}

/** What each tool is set to at every line that lays, by a reader of its own. */
function heats(text: string): { tool: number; heat: number[]; layer: number }[] {
  const heat = [0, 0];
  let tool = 0;
  let layer = 0;
  const seen: { tool: number; heat: number[]; layer: number }[] = [];
  for (const line of text.split("\n")) {
    const code = line.split(";")[0].trim();
    if (/^; layer/.test(line)) layer++;
    const change = /^T(\d)$/.exec(code);
    if (change) tool = Number(change[1]);
    const set = /^M10[49](?:.* T(\d))?.*? S([\d.]+)/.exec(code) ?? /^M10[49].* S([\d.]+)/.exec(code);
    if (set && code.includes("S"))
      heat[/T(\d)/.exec(code) ? Number(/T(\d)/.exec(code)![1]) : tool] = Number(/S([\d.]+)/.exec(code)![1]);
    if (/^G1 .*E/.test(code)) seen.push({ tool, heat: [...heat], layer });
  }
  return seen;
}

test("each tool has its own heat in the first layer and later, cools while the other is in, and is hot again before it lays", () => {
  const wishes = [
    { tool: 0, firstC: 220, laterC: 212, idleC: 170 },
    { tool: 1, firstC: 240, laterC: 235 },
  ];
  const { after } = edited(twoTools(), one({ kind: "tools", tools: wishes }), twin);
  const laid = heats(after);
  expect(laid).toHaveLength(24);
  for (const { tool, heat, layer } of laid) {
    expect(heat[tool]).toBe(layer === 1 ? [220, 240][tool] : [212, 235][tool]);
    if (tool === 1) expect(heat[0]).toBe(170);
  }
  // No tool is ever sent back to what the first layer wanted.
  expect(after.slice(after.indexOf("; layer 2"))).not.toMatch(/S220|S240/);
});

test("what stands in front of a layer's first travel belongs to that layer, and a tool that is idle there waits for its turn", () => {
  const text = twoTools()
    .replace("M109 T1 S205\n", "")
    .replaceAll(/T0\n(G0 X80 Y80)\n/g, "$1\n")
    .replaceAll(/; layer (\d)\n/g, "T0\n; layer $1\n");
  const { after } = edited(
    text,
    one({
      kind: "tools",
      tools: [
        { tool: 0, firstC: 220, laterC: 212, idleC: 170 },
        { tool: 1, laterC: 235, idleC: 180 },
      ],
    }),
    twin,
  );
  for (const { tool, heat, layer } of heats(after)) {
    expect(heat[0]).toBe(tool === 1 ? 170 : layer === 1 ? 220 : 212);
    if (layer > 1) expect(heat[1]).toBe(tool === 1 ? 235 : 180);
  }
});

test("a file that ends in the middle of a line gets its heaters off on lines of their own", () => {
  const { after } = edited(twoTools().trimEnd(), one({ kind: "tools", tools: [] }), twin);
  expect(after).toContain("\nM84\n; cuchara: every heater off\nM104 S0 T0\n");
});

test("the heater that was left on is off at the end, each by its name, and the bed too", () => {
  const { after } = edited(twoTools(), one({ kind: "tools", tools: [] }), twin);
  expect(after.trimEnd().split("\n").slice(-3)).toEqual(["M104 S0 T0", "M104 S0 T1", "M140 S0"]);
});

test("waits inside the print become comments and only set; those at the start stay", () => {
  const { after } = edited(twoTools(), one({ kind: "tools", tools: [], commentWaits: true }), twin);
  expect(after).toContain("; cuchara: was: M109 T1 S205\nM104 T1 S205\n");
  expect(after.match(/^M109/gm)).toHaveLength(2);
});

test("another tool takes the place of one, wherever it is named", () => {
  const { after } = edited(twoTools(), one({ kind: "tools", tools: [{ tool: 1, as: 0 }], allOff: false }), twin);
  expect(after).not.toMatch(/T1\b/);
  expect(after.replace(/T0/g, "T1")).toBe(twoTools().replace(/T0/g, "T1"));
});

test("a fan is a tool's own while it is in", () => {
  const { after } = edited(
    twoTools(),
    one({
      kind: "tools",
      tools: [
        { tool: 0, fan: 40 },
        { tool: 1, fan: 0 },
      ],
    }),
    twin,
  );
  expect(after).toMatch(/T0\nM106[^\n]*S102/);
  expect(after).toMatch(/T1\nM10(7|6[^\n]*S0)/);
});

test("a tool that is not there and a heat beyond the printer are refused at their field; a tool named twice is none", () => {
  expect(tryEdits(twoTools(), one({ kind: "tools", tools: [{ tool: 4 }] }), twin)).toMatchObject({
    ok: false,
    field: "0.tools.0.tool",
  });
  expect(tryEdits(twoTools(), one({ kind: "tools", tools: [{ tool: 0, laterC: 480 }] }), twin)).toMatchObject({
    ok: false,
    field: "0.tools.0",
  });
  expect(() => one({ kind: "tools", tools: [{ tool: 0 }, { tool: 0 }] })).toThrow(/named once/);
});

test("a tool that idles long enough is told its heat on the way, by the printer's own rate; an offset is said before the first layer", () => {
  // Twenty squares of 40 mm a layer at 20 mm/s with each tool: 160 s, and 65 °C at 2.5 °C/s and 3 s are 29 s.
  const square = (x: number, z: string) =>
    Array.from(
      { length: 20 },
      () =>
        `G0 X${x} Y40 Z${z} F6000\nG1 X${x + 40} Y40 E1 F1200\nG1 X${x + 40} Y80 E1\nG1 X${x} Y80 E1\nG1 X${x} Y40 E1`,
    ).join("\n");
  const layers = [1, 2, 3].map(
    (n) => `T0\n${square(20, (n * 0.2).toFixed(1))}\nT1\n${square(120, (n * 0.2).toFixed(1))}`,
  );
  const text = [
    "M104 T0 S210",
    "M104 T1 S210",
    "M109 T0 S210",
    "M109 T1 S210",
    "G28",
    "G90",
    "M83",
    ...layers,
    "M84",
    "",
  ];
  const wish = {
    kind: "tools",
    tools: [
      { tool: 0, firstC: 210, laterC: 215, idleC: 150 },
      { tool: 1, offset: { x: 18, y: 0 } },
    ],
    allOff: true,
  };
  const printer = { ...printers.find(({ tools: count }) => count > 1)!, heaterRiseCPerS: 2.5 };
  const { after } = edited(text.join("\n"), editsSchema.parse([wish]), printer);
  const lines = after.split("\n");
  const early = lines.flatMap((line, i) => (line.includes("told early") ? [i] : []));
  expect(early).toHaveLength(2);
  expect(lines[early[0]]).toBe("M104 S215 T0 ; cuchara: told early");
  // What is laid between it and the change, at 20 mm/s.
  const change = lines.indexOf("T0", early[0]);
  const seconds = (lines.slice(early[0], change).filter((line) => /^G1 X/.test(line)).length * 40) / 20;
  expect(seconds).toBeGreaterThan(25);
  expect(seconds).toBeLessThan(40);
  expect(lines.indexOf("M218 T1 X18 Y0")).toBeLessThan(lines.indexOf("G1 X60 Y40 E1 F1200"));
});
