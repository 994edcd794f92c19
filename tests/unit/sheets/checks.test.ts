/** What only a sheet can have wrong with it: each check finds what it is there for, and is silent where nothing is. */
import { buildSheet, mendSheet } from "@/core/sheets/program";
import { ladle, saffron } from "../helpers/demo";
import { sheetOf } from "../helpers/sheets";

function checked(items: object[], change: object = {}) {
  const built = buildSheet({ sheet: sheetOf(items, change), printer: ladle, spool: saffron });
  if (!built.ok) throw new Error(`${built.field}: ${built.message}`);
  const { findings, passed, figures } = built.value;
  return { findings, passed, figures, of: (check: string) => findings.find((one) => one.check === check) };
}

const line = (from: [string, string], to: [string, string], change: object = {}) => ({
  kind: "line",
  points: [from, to],
  ...change,
});
const rings = (gap: string) => ({
  kind: "repeat",
  along: "x",
  count: "4",
  spacingMm: gap,
  items: [{ kind: "circle", centre: ["60", "100"], radiusMm: "8" }],
});

test("a plain sheet is in order, and says what was looked at", () => {
  const { findings, passed } = checked([line(["80", "100"], ["140", "100"])]);
  expect(findings).toEqual([]);
  expect(passed).toEqual(
    expect.arrayContaining(["The first stroke is on the bed.", "The program reads back as intended."]),
  );
});

test.each([
  // Rings 0.45 mm wide, their middles 16.4 mm apart: they overlap by 0.05 mm, a ninth. Middles 16.2 mm apart: 0.25 mm, five ninths.
  ["16.4", undefined],
  ["16.2", "overlap by 5"],
  ["16", "overlap by"],
])("rings every %s mm: beads that press into one another are told", (gap, message) => {
  const found = checked([rings(gap)]).of("beads-beside");
  if (message === undefined) expect(found).toBeUndefined();
  else expect(found?.message).toContain(message);
});

test.each([
  ["0.42", undefined],
  ["0.3", "overlap by 3"],
  ["0.6", "leave 33 % of their width open"],
  ["2", undefined],
])("lines %s mm apart: too close, too far, or meant to be apart", (apart, message) => {
  const lines = {
    kind: "repeat",
    along: "y",
    count: "5",
    spacingMm: apart,
    items: [line(["80", "100"], ["140", "100"])],
  };
  const found = checked([lines]).of("beads-beside");
  if (message === undefined) expect(found).toBeUndefined();
  else expect(found?.message).toContain(message);
});

test("below the bed, above it, outside of it, nothing at all", () => {
  expect(checked([line(["80", "100"], ["140", "100"], { z: "-0.1" })]).of("below-bed")).toMatchObject({
    severity: "stop",
    where: "row 1",
  });
  expect(checked([line(["80", "100"], ["140", "100"], { z: "1.5" })]).of("not-on-bed")?.message).toContain(
    "1.5 mm above the bed",
  );
  expect(checked([line(["80", "100"], ["400", "100"])]).of("outside-bed")).toMatchObject({ severity: "stop" });
  expect(checked([]).of("nothing-laid")).toMatchObject({ severity: "stop" });
});

test("strands over air that are too long; those that are held more often are not", () => {
  const posts = (every: string) => [
    {
      kind: "repeat",
      along: "z",
      count: "20",
      spacingMm: "0.2",
      items: [
        {
          kind: "repeat",
          along: "x",
          count: "2",
          spacingMm: every,
          items: [{ kind: "rectangle", centre: ["60", "100"], widthMm: "4", depthMm: "6", fill: { pattern: "rings" } }],
        },
      ],
    },
    line(["58", "100"], [`62 + ${every}`, "100"], { z: "4.2", speedMmS: "10" }),
  ];
  expect(checked(posts("90")).of("long-span")?.message).toMatch(/hangs over 8\d mm of air/);
  expect(checked(posts("40")).of("long-span")).toBeUndefined();
});

test("faster than the hot end melts: also where a curve is made of nothing but short moves", () => {
  const curve = (speedMmS: string) => ({
    kind: "curve",
    from: "0",
    to: "1",
    x: "110 + 30*cos(2*pi*t)",
    y: "110 + 30*sin(2*pi*t)",
    steps: "2000",
    speedMmS,
    bead: { widthMm: "0.8", heightMm: "0.3" },
  });
  // 0.8 × 0.3 mm: 0.2207 mm²; at 100 mm/s 22 mm³/s.
  expect(checked([curve("100")]).of("beyond-flow")?.message).toContain("Up to 22");
  expect(checked([curve("30")]).of("beyond-flow")).toBeUndefined();
});

test("faster than the extruder turns: by what is fed for every mm", () => {
  // 1 mm of filament for every mm of the stroke, at 60 mm/s.
  const thick = line(["80", "100"], ["140", "100"], { bead: { filamentPerMm: "1" }, speedMmS: "60" });
  const built = buildSheet({ sheet: sheetOf([thick]), printer: { ...ladle, highestFeedEMmS: 50 }, spool: saffron });
  if (!built.ok) throw new Error(built.message);
  expect(built.value.findings.find(({ check }) => check === "beyond-extruder")?.message).toContain(
    "Up to 60 mm of filament a second",
  );
  expect(checked([line(["80", "100"], ["140", "100"])]).of("beyond-extruder")).toBeUndefined();
});

test("a jump without drawing back across open bed is told, one over what is laid is not", () => {
  const far = line(["150", "100"], ["180", "100"], { retract: false });
  expect(checked([line(["60", "100"], ["90", "100"]), far]).of("bare-jump")).toMatchObject({
    where: "row 2",
    message: expect.stringContaining("60 mm"),
  });
  expect(
    checked([line(["60", "100"], ["90", "100"]), line(["150", "100"], ["180", "100"])]).of("bare-jump"),
  ).toBeUndefined();
});

test("the top of the program says what it is and draws it: a ring is as round in text as signs can be", () => {
  const sheet = sheetOf([{ kind: "circle", centre: ["110", "110"], radiusMm: "20" }], {
    figures: [{ name: "r", value: "20", unit: "mm" }],
  });
  const built = buildSheet({ sheet, printer: ladle, spool: saffron });
  if (!built.ok) throw new Error(built.message);
  const head = new TextDecoder().decode(built.value.bytes).split("G28")[0].split("\n");
  expect(head).toContain("; figure   r = 20 mm");
  expect(head).toContain("; 40 × 40 mm, seen from above");
  const drawn = head.filter((line) => /^; [ o]+$/.test(line)).map((line) => line.slice(2));
  const widest = Math.max(...drawn.map(({ length }) => length));
  // Signs are twice as high as wide.
  expect(widest / drawn.length).toBeCloseTo(2, 0);
  expect(drawn[Math.floor(drawn.length / 2)].trim()).toMatch(/^o+ {20,}o+$/);
});

test("a gap that is crossed can be gone round at one press", () => {
  const sheet = sheetOf([line(["80", "100"], ["140", "100"])], {
    keepOut: [{ shape: "circle", centre: [110, 100], radiusMm: 5 }],
  });
  const built = buildSheet({ sheet, printer: ladle, spool: saffron });
  if (!built.ok) throw new Error(built.message);
  const [gap] = built.value.findings;
  expect(gap).toMatchObject({ check: "gap-crossed", mend: { sheet: "go-round" } });
  const mended = buildSheet({ sheet: mendSheet(sheet, "go-round")!, printer: ladle, spool: saffron });
  expect(mended.ok && mended.value.findings).toEqual([]);
});

test("own lines that lay something besides are found when the program is read back", () => {
  const own = { kind: "lines", lines: ["G1 X200 E5"] };
  expect(
    checked([line(["60", "100"], ["90", "100"]), own, line(["60", "120"], ["90", "120"])]).of("proof-differs"),
  ).toMatchObject({ severity: "stop" });
});

test("what order and ways save is the difference to the sheet laid in the order written", () => {
  const { saved } = checked([rings("16.4")]).figures;
  expect(saved.retractions).toBe(3);
  expect(saved.seconds).toBeGreaterThan(0);
  const { saved: nothing } = checked([line(["80", "100"], ["140", "100"])]).figures;
  expect(nothing).toMatchObject({ retractions: 0, travelMm: 0 });
});
