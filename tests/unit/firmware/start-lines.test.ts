/** Firmware values as start lines: what was put in is known again, and nothing somebody wrote himself is touched. */
import { sayAdded, withStartLines } from "@/core/firmware/start-lines";

const own = "G28\nM92 E400 ; mine\nM104 S200";

test("a line that sets the same takes the place of the one that was put in before", () => {
  const first = withStartLines(own, ["M92 E415.38"]);
  expect(first).toEqual({ startLines: `${own}\nM92 E415.38 ; tuned`, replaced: 0 });
  const second = withStartLines(first.startLines, ["M92 E416"]);
  expect(second).toEqual({ startLines: `${own}\nM92 E416 ; tuned`, replaced: 1 });
  expect(sayAdded(["M92 E416"], second.replaced, "Ladle 220")).toBe(
    "Added to the start lines of Ladle 220, in place of the line that was there: M92 E416.",
  );
});

test("another word, or another tool, of the same command stays", () => {
  const { startLines } = withStartLines(own, ["M92 X80", "M572 D0 S0.03"]);
  const next = withStartLines(startLines, ["M92 E415", "M572 D1 S0.05"]);
  expect(next.replaced).toBe(0);
  expect(next.startLines.split("\n").slice(-4)).toEqual([
    "M92 X80 ; tuned",
    "M572 D0 S0.03 ; tuned",
    "M92 E415 ; tuned",
    "M572 D1 S0.05 ; tuned",
  ]);
});
