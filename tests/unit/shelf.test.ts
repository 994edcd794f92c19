import { bedCentre, outsideBedMm } from "@/core/shelf/printer";
import { printerSchema } from "@/core/shelf/printer-schema";
import { figuresOf } from "@/core/shelf/spool";
import { newSpoolSchema, spoolSchema } from "@/core/shelf/spool-schema";
import { spoolTitle } from "@/core/shelf/spool-title";
import { plainNumber, roundTo, sayDuration, toMicrometres } from "@/core/units";
import { newPrinter, newSpool } from "@/ui/shelf/drafts";
import { printerFields, spoolFields } from "@/ui/shelf/fields";
import { ladle, printers, saffron, spools } from "./helpers/demo";

describe("printers", () => {
  test("the middle of a bed of 220 × 220 is X110 Y110 (arithmetic)", () => {
    expect(bedCentre(ladle)).toEqual({ x: 110, y: 110 });
  });

  test("round beds and centre origins", () => {
    const round = printers.find(({ bedShape }) => bedShape === "round")!;
    expect(bedCentre(round)).toEqual({ x: 0, y: 0 });
    expect(outsideBedMm(round, 89, 0)).toBeCloseTo(-1, 9);
    // The corner of the square around it is outside by 90 · (√2 − 1).
    expect(outsideBedMm(round, 90, 90)).toBeCloseTo(90 * (Math.SQRT2 - 1), 9);
    expect(outsideBedMm(ladle, 0, 110)).toBe(0);
    expect(outsideBedMm(ladle, -3, 110)).toBe(3);
  });

  test.each([
    [{ name: "" }, "name", /a name/],
    [{ bedWidthMm: "220" }, "bedWidthMm", /must be a number/],
    [{ bedWidthMm: NaN }, "bedWidthMm", /must be a number/],
    [{ bedWidthMm: 5 }, "bedWidthMm", /at least 40/],
    [{ highestNozzleC: 900 }, "highestNozzleC", /at most 500/],
    [{ dialect: "latin" }, "dialect", /one of jerk/],
    [{ tools: 1.5 }, "tools", /whole numbers/],
    [{ startLines: 5 }, "startLines", /must be text/],
  ])("%j is refused at its field", (change, field, sentence) => {
    const [issue] = printerSchema.safeParse({ ...ladle, ...change }).error!.issues;
    expect(issue.path).toEqual([field]);
    expect(issue.message).toMatch(sentence);
  });

  test("every field of the record has a place on the form", () => {
    const shown = printerFields.flatMap(({ fields }) => fields.map(({ name }) => name));
    // When the firmware last said a figure stands beside the figure itself.
    expect([...shown, "firmwareOwn"].sort()).toEqual(Object.keys(ladle).sort());
    expect(printerSchema.safeParse({ ...newPrinter, name: "New" }).success).toBe(true);
  });
});

describe("spools", () => {
  test("maker, material and colour name it", () => {
    expect(spoolTitle(saffron)).toBe("Larkfield PLA Saffron");
    expect(spoolTitle(spools.at(-1)!)).toBe("PLA remnant, no label");
  });

  test("a label that ends below its start is refused", () => {
    const [issue] = spoolSchema.safeParse({ ...saffron, labelMinC: 230 }).error!.issues;
    expect(issue.path).toEqual(["labelMaxC"]);
    expect(issue.message).toMatch(/swap/);
  });

  test("every field has a place on the form, and a new one starts with its material's figures", () => {
    const shown = spoolFields.flatMap(({ fields }) => fields.map(({ name }) => name));
    expect([...shown].sort()).toEqual(Object.keys(saffron).sort());
    expect(spoolSchema.safeParse({ ...newSpool, name: "New" }).success).toBe(true);
    expect(figuresOf("ABS").densityGCm3).toBe(1.04);
  });
});

describe("units", () => {
  test.each([
    [0.1 + 0.2, 3, "0.3"],
    [10, 3, "10"],
    [100, 0, "100"],
    [-0.0001, 2, "0"],
    [37.45, 1, "37.5"],
    [1e-9, 3, "0"],
  ])("%d with %i places is shown as %s", (value, decimals, text) => {
    expect(plainNumber(value, decimals)).toBe(text);
  });

  test.each([
    [48, "48 s"],
    [720, "12 min"],
    [6720, "1 h 52 min"],
  ])("%d seconds are %s", (seconds, text) => {
    expect(sayDuration(seconds)).toBe(text);
  });

  test("rounding", () => {
    expect(Object.is(roundTo(-0.00001, 2), 0)).toBe(true);
    expect(toMicrometres(0.1 + 0.2)).toBe(300);
  });
});

test("a new spool that says its material alone is filled in from it; what it says itself stays", () => {
  expect(newSpoolSchema.parse({ name: "x", material: "PETG" })).toMatchObject({ ...figuresOf("PETG"), name: "x" });
  expect(newSpoolSchema.parse({ name: "x", material: "PETG", bedC: 70 }).bedC).toBe(70);
  expect(newSpoolSchema.safeParse({ name: "x", material: "toString" }).success).toBe(false);
  expect(newSpoolSchema.safeParse(null).success).toBe(false);
});
