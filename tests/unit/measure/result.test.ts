/** What is kept of a tune, and how it is said. */
import { isHot, sayMeasured } from "@/core/measure/hot";
import { resultFigures, resultOf, sayResult } from "@/core/measure/result";
import { togetherOf } from "@/core/measure/runs";
import type { TuneOutcome } from "@/core/measure/tune";

const outcome = (more: Partial<TuneOutcome>): TuneOutcome => ({
  sum: [],
  measured: 1,
  unit: "mm",
  within: false,
  verdict: "",
  firmware: {},
  ...more,
});

test("where nothing needed to be changed, what the printer has is kept, not what the sum would have made of it", () => {
  const last = outcome({ within: true, firmware: { stepsE: 405.94 } });
  expect(resultOf(last, undefined, { stepsE: 410 }).firmware).toEqual({ stepsE: 410 });
  expect(resultOf(last, undefined, {}).firmware).toEqual({ stepsE: 405.94 });
});

test("where a new value was tried, that one is kept, whatever the last reading says", () => {
  const tried = outcome({ firmware: { stepsE: 416.24 } });
  const last = outcome({ within: true, firmware: { stepsE: 416.9 } });
  expect(resultOf(last, tried, { stepsE: 416.24 }).firmware).toEqual({ stepsE: 416.24 });
});

test("each figure keeps its name: a PID is three, and two negative offsets are two", () => {
  const pid = { firmware: { nozzleP: 22.2, nozzleI: 1.08, nozzleD: 114 }, settings: {}, printer: {} };
  expect(resultFigures(pid).map(({ figure }) => figure.split(" ")[0])).toEqual(["22.2", "1.08", "114"]);
  expect(new Set(resultFigures(pid).map(({ name }) => name)).size).toBe(3);
  expect(sayResult({ firmware: { homeX: -1.5, homeY: -0.25 }, settings: {}, printer: {} })).toMatch(
    /-1\.5.*, .*-0\.25/,
  );
  expect(sayResult({ firmware: {}, settings: { flowFactor: 97 }, printer: { highestFlowMm3S: 11.5 } })).toBe(
    "Flow factor 97 %, Flow at most 11.5 mm³/s",
  );
});

describe("whether it is hot follows what was measured", () => {
  const heat = (nozzleC: number, bedC = 60) => ({
    nozzles: [{ measuredC: nozzleC, setC: 210 }],
    bed: { measuredC: bedC, setC: 60 },
  });
  test.each([
    [{ nozzleC: 210 }, 209, 1, true],
    [{ nozzleC: 210 }, 22, 1, false],
    // Hot a minute ago says nothing of now.
    [{ nozzleC: 210 }, 210, 60, false],
    [{ bedC: 60 }, 22, 1, true],
    [{ nozzleC: 210, bedC: 90 }, 210, 1, false],
  ])("%j at %d °C, measured %d s ago: %s", (wanted, measuredC, heatAgeS, hot) => {
    expect(isHot(wanted, { heat: heat(measuredC) as never, heatAgeS }, 0)).toBe(hot);
  });

  test("nothing measured is not hot, and old measurements say their age", () => {
    expect(isHot({ nozzleC: 210 }, { heat: null, heatAgeS: null }, 0)).toBe(false);
    expect(sayMeasured({ nozzleC: 210 }, { heat: heat(22) as never, heatAgeS: 1 }, 0)).toBe("nozzle 22 °C");
    expect(sayMeasured({ nozzleC: 210, bedC: 60 }, { heat: heat(220) as never, heatAgeS: 40 }, 0)).toBe(
      "nozzle 220 °C, bed 60 °C 40 s ago",
    );
  });
});

describe("two runs that agree", () => {
  // new = old · 100 / moved (domain practice): 405 at 97.4 mm is 415.811, at 97.6 mm 414.959; their mean 415.385.
  const run = (measured: number) => outcome({ measured, firmware: { extruderSteps: (405 * 100) / measured } });

  test("count both", () => {
    const together = togetherOf({ agreeWithin: 1 }, [run(97.4), run(97.6)])!;
    expect(together.firmware.extruderSteps).toBeCloseTo(415.385, 3);
    expect(together.measured).toBeCloseTo(97.5, 6);
  });

  test("that differ, or one alone, or where none is asked to agree: the last counts", () => {
    for (const outcomes of [[run(97), run(94)], [run(97.6)]])
      expect(togetherOf({ agreeWithin: 1 }, outcomes)).toBe(outcomes.at(-1));
    const two = [run(97.4), run(97.6)];
    expect(togetherOf({ agreeWithin: Infinity }, two)).toBe(two[1]);
    expect(togetherOf({ agreeWithin: 1 }, [])).toBeUndefined();
  });
});
