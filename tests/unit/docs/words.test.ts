/** The glossary says what a word means once: two meanings of one word are told apart in brackets. */
import { readFileSync } from "node:fs";
import { join } from "node:path";

const rows = readFileSync(join(__dirname, "../../../docs/words.md"), "utf8")
  .split("\n")
  .filter((line) => /^\| [^-]/.test(line))
  .map((line) => line.split("|")[1].trim().toLowerCase());

test("every word stands in it once", () => {
  expect(rows.length).toBeGreaterThan(120);
  expect(rows.filter((word, i) => word !== "word" && rows.indexOf(word) !== i)).toEqual([]);
});
