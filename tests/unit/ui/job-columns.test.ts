import type { JobLog, JobMark, JobView } from "@/core/link/state";
import { settingKeys } from "@/core/settings";
import { inForceAt, measuredByLayer } from "@/core/link/job-facts";
import { jobColumns, markOf } from "@/ui/printer/job-columns";

const tops = [0.2, 0.4, 0.6, 0.8, 1, 1.2];
const nothing = Object.fromEntries(
  settingKeys.map((key) => [key, tops.map(() => null)]),
) as unknown as JobLog["settings"];

function job(
  change: Partial<Pick<JobView, "samples" | "marks">> & { settings?: Partial<JobLog["settings"]> },
): JobView {
  return {
    status: {} as JobView["status"],
    trial: null,
    log: {
      tops,
      minX: tops.map(() => 0),
      maxX: tops.map(() => 10),
      settings: { ...nothing, ...change.settings },
      seconds: 60,
    },
    samples: change.samples ?? [],
    marks: (change.marks ?? []).map((mark) => ({ ...mark, madeAt: "" })) as JobMark[],
  };
}

describe("what was measured along the height", () => {
  it("is the layer's own, with the line between where a layer was passed unseen", () => {
    const samples = [
      { heightMm: 0.2, nozzleC: 210 },
      { heightMm: 0.8, nozzleC: 216 },
      { heightMm: 0.8, nozzleC: 218 },
    ];
    expect([...measuredByLayer(tops, samples)]).toEqual([210, 212, 214, 217, NaN, NaN]);
    expect([...measuredByLayer(tops, [])]).toEqual(tops.map(() => NaN));
  });
});

describe("what is in force", () => {
  const settings = { nozzleTemperature: [220, 220, 220, 215, 215, 215], fan: [0, 100, 100, 100, 100, 100] };
  it("is what the program says, until it is changed by hand, until the program changes it again", () => {
    const view = job({ settings, marks: [{ heightMm: 0.4, setting: "nozzleTemperature", value: 230, madeAt: "" }] });
    expect(tops.map((_, layer) => inForceAt(view, "nozzleTemperature", layer))).toEqual([220, 230, 230, 215, 215, 215]);
    expect(inForceAt(view, "fan", 0)).toBe(0);
    expect(inForceAt(view, "flowFactor", 2)).toBeNull();
  });

  it("is the last of several changes by hand", () => {
    const marks = [
      { heightMm: 0.2, setting: "flowFactor" as const, value: 102, madeAt: "" },
      { heightMm: 0.6, setting: "flowFactor" as const, value: 97, madeAt: "" },
    ];
    const view = job({ settings, marks });
    expect(tops.map((_, layer) => inForceAt(view, "flowFactor", layer))).toEqual([102, 102, 97, 97, 97, 97]);
  });
});

describe("the columns of a job", () => {
  it("are the nozzle, what else varies, and what was done by hand", () => {
    const settings = { nozzleTemperature: [220, 220, 220, 215, 215, 215], fan: [0, 100, 100, 100, 100, 100] };
    const columns = jobColumns(
      job({ settings, marks: [{ heightMm: 0.4, setting: "flowFactor", value: 102, madeAt: "" }] }),
      "nozzleTemperature",
    );
    expect(columns.map(({ title }) => title)).toEqual(["mm", "material", "layer", "Nozzle, °C", "Fan, %", "By hand"]);
    expect(markOf({ heightMm: 0.4, setting: "flowFactor", value: 102, madeAt: "" })).toEqual({
      heightMm: 0.4,
      text: "flow 102 %",
    });
    expect(jobColumns(job({}), "nozzleTemperature").filter(({ isAxis }) => isAxis)).toHaveLength(1);
  });
});
