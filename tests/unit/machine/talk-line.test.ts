import fc from "fast-check";
import { forEachTalked, readTalkLine } from "@/core/gcode/talk-line";

test.each([
  ["g28", "G28", []],
  ["M104S240", "M104", ["S240"]],
  ["M 104 S 200 ; hot", "M104", ["S 200"]],
  ["N5 G28 X*22", "G28", ["X"]],
  ["G1X10E-5.5", "G1", ["X10", "E-5.5"]],
  ["G1 X1.5 (there) Y2", "G1", ["X1.5", "Y2"]],
  ["SET_RETRACTION RETRACT_LENGTH=2.5", "SET_RETRACTION", ["RETRACT_LENGTH=2.5"]],
  ["; a comment", "", []],
  ["", "", []],
])("%j is cut into its command and words", (text, code, words) => {
  const line = readTalkLine(text);
  expect([line.code, line.words.map((word) => word.text)]).toEqual([code, words]);
});

test("numbers, checksums, comments and text stand apart", () => {
  // Check vectors: common, from memory.
  expect(readTalkLine("N4 G92 E0*67")).toMatchObject({ number: 4, checksum: 67, code: "G92" });
  expect(readTalkLine("M117 Band 3: 215 C")).toMatchObject({ code: "M117", text: "Band 3: 215 C", words: [] });
  expect(readTalkLine("N7 M117 Hello*33").text).toBe("Hello");
  expect(readTalkLine("M0 Set M104 S240 now")).toMatchObject({ code: "M0", words: [] });
  expect(readTalkLine("G28 ; home")).toMatchObject({ comment: "home" });
});

test("several commands on a line come one by one", () => {
  const codes: string[] = [];
  forEachTalked("G90 G1 X5 M104 S200", (command, words) => codes.push(`${command?.code}:${words.count}`));
  expect(codes).toEqual(["G90:0", "G1:1", "M104:1"]);
});

test("any text is cut, in a time that grows no faster than the text", () => {
  fc.assert(fc.property(fc.string({ maxLength: 200 }), (text) => typeof readTalkLine(text).code === "string"));
  // Rows of brackets and letters once took seconds. Counted in work done, not in time: what is looked at ends.
  for (const hostile of [`M117 ${"(".repeat(200_000)}`, `${"A".repeat(200_000)}!`, "G1 ".repeat(80_000)]) {
    expect(readTalkLine(hostile).words.length).toBeLessThanOrEqual(32);
  }
});
