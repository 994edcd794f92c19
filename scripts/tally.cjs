/** What the test runners say about themselves, added up: a runner that could not run, or ran nothing, is a failure. */

/** Passed only at a second try: one such test is shown and let pass, more are a failure of the tests themselves. */
const MOST_FLAKY = 1;

/**
 * @param unit the JSON report of the unit tests, or null if there is none; @param status how their runner ended
 * @returns {{passed: number, failed: number, said: string[]}}
 */
function tallyUnit(unit, status) {
  if (!unit) return { passed: 0, failed: 1, said: ["The unit tests could not be run: they left no report."] };
  const { numPassedTests: passed, numFailedTests, numRuntimeErrorTestSuites, numTotalTests } = unit;
  const failed = numFailedTests + numRuntimeErrorTestSuites;
  if (numTotalTests === 0) return { passed, failed: failed + 1, said: ["The unit tests ran no test."] };
  if (failed === 0 && status !== 0) {
    return { passed, failed: 1, said: [`The unit tests ended with status ${status} though none failed.`] };
  }
  return { passed, failed, said: [] };
}

/**
 * @param screens the JSON report of the browser tests, or null; @param status how their runner ended
 * @returns {{passed: number, failed: number, said: string[]}}
 */
function tallyScreens(screens, status) {
  if (!screens) return { passed: 0, failed: 1, said: ["The browser tests could not be run: they left no report."] };
  const { expected, flaky, unexpected, skipped = 0 } = screens.stats;
  const said = (screens.errors ?? []).map(({ message }) => `The browser tests: ${String(message).split("\n", 1)[0]}`);
  const shaky = titlesOf(screens.suites ?? [], "flaky");
  for (const title of shaky) said.push(`Passed only at its second try: ${title}`);
  let failed = unexpected + (screens.errors ?? []).length;
  if (flaky > MOST_FLAKY) {
    failed += flaky;
    said.push(`${flaky} tests passed only at their second try; one is the most that is let pass.`);
  }
  if (expected + flaky + unexpected === 0) {
    failed += 1;
    said.push("The browser tests ran no test.");
  }
  if (skipped > 0) {
    failed += skipped;
    said.push(`${skipped} browser tests were not run.`);
  }
  if (failed === 0 && status !== 0) {
    failed = 1;
    said.push(`The browser tests ended with status ${status} though none failed.`);
  }
  return { passed: expected + (flaky > MOST_FLAKY ? 0 : flaky), failed, said };
}

/** Titles of the tests that ended in some way, with the file they stand in. */
function titlesOf(suites, status, file = "") {
  return suites.flatMap((suite) => [
    ...(suite.specs ?? [])
      .filter(({ tests }) => tests.some((test) => test.status === status))
      .map(({ title }) => `${suite.file ?? file}: ${title}`),
    ...titlesOf(suite.suites ?? [], status, suite.file ?? file),
  ]);
}

module.exports = { tallyUnit, tallyScreens, MOST_FLAKY };
