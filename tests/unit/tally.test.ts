import { MOST_FLAKY, tallyScreens, tallyUnit } from "../../scripts/tally.cjs";

const unit = { numPassedTests: 900, numFailedTests: 0, numRuntimeErrorTestSuites: 0, numTotalTests: 900 };
const stats = { expected: 60, flaky: 0, unexpected: 0, skipped: 0 };

test("what ran and held counts as passed", () => {
  expect(tallyUnit(unit, 0)).toEqual({ passed: 900, failed: 0, said: [] });
  expect(tallyScreens({ stats, errors: [], suites: [] }, 0)).toEqual({ passed: 60, failed: 0, said: [] });
});

test.each([
  ["no report", () => tallyUnit(null, 1)],
  ["no test", () => tallyUnit({ ...unit, numPassedTests: 0, numTotalTests: 0 }, 0)],
  ["a bad end", () => tallyUnit(unit, 1)],
  ["a file that cannot be loaded", () => tallyUnit({ ...unit, numRuntimeErrorTestSuites: 1 }, 1)],
  ["no browser report", () => tallyScreens(null, 1)],
  ["no browser test", () => tallyScreens({ stats: { ...stats, expected: 0 } }, 0)],
  [
    "a port in use",
    () => tallyScreens({ stats: { ...stats, expected: 0 }, errors: [{ message: "port already used" }] }, 1),
  ],
  ["a bad end in the browser", () => tallyScreens({ stats }, 1)],
  ["tests left out", () => tallyScreens({ stats: { ...stats, skipped: 2 } }, 0)],
])("a runner that could not run is a failure: %s", (_, tally) => {
  expect(tally().failed).toBeGreaterThan(0);
});

test("a test that passes only at its second try is shown by name, and more than one is a failure", () => {
  const suites = [{ file: "tower.spec.ts", specs: [{ title: "builds", tests: [{ status: "flaky" }] }] }];
  const one = tallyScreens({ stats: { ...stats, flaky: 1 }, suites }, 0);
  expect(one).toEqual({ passed: 61, failed: 0, said: ["Passed only at its second try: tower.spec.ts: builds"] });
  expect(tallyScreens({ stats: { ...stats, flaky: MOST_FLAKY + 1 }, suites }, 0).failed).toBe(MOST_FLAKY + 1);
});
