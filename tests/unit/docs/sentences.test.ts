/** What users read: found by walking the sources' syntax, and free of ways of speaking that readers stumbled over. */
import { allSentences, sentencesOf, stumbled } from "../../../scripts/sentences.cjs";

test("texts, templates and the text of elements are found, with the line they stand in; keys, lines of programs and SQL are not", () => {
  const source = [
    `import { x } from "./some/place";`,
    `const key = "fan-speed";`,
    `const sql = "SELECT name FROM printers";`,
    `const line = "M104 S210";`,
    "const said = `Tool ${n} is not there: choose another.`;",
    `const page = <p className="card wide">Nothing is kept yet.</p>;`,
  ].join("\n");
  expect(sentencesOf("page.tsx", source)).toEqual([
    { text: "Tool … is not there: choose another.", line: 5 },
    { text: "Nothing is kept yet.", line: 6 },
  ]);
});

test("what a reader stumbles over is found, and said otherwise", () => {
  expect(stumbled("Behind this G90 the filament counts anew.")).toEqual({ words: "Behind this G", instead: "after" });
  expect(stumbled("A line has at most 500 letters")?.instead).toBe("characters");
  expect(stumbled("Bands are told apart by their height.")).toBeNull();
  expect(stumbled("Ripples show behind the letters X and Y.")).toBeNull();
});

test("no sentence of the program has one of them", () => {
  const sentences = allSentences();
  expect(sentences.length).toBeGreaterThan(2000);
  const stumbling = sentences.flatMap(({ file, line, text }) => (stumbled(text) ? [`${file}:${line} ${text}`] : []));
  expect(stumbling).toEqual([]);
});
