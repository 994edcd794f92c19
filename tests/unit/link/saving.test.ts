/**
 * A save saves what was meant (docs/api.md, “values/save”): told by what the simulated printer really holds in its memory, on every dialect.
 */
import { readProgram } from "@/core/gcode/read";
import { limitsFor } from "@/core/motion/limits";
import { jobProgram } from "@/core/report/progress";
import { Printer } from "@/core/shelf/printer";
import { snapshots, valueChanges } from "@/server/db/firmware-values";
import { printers as shelf } from "@/server/db/printers";
import { findStrays, readFirmware, saveValues, takeOverReading, tryValue } from "@/server/link/firmware";
import { connect, simulatorOf } from "@/server/link/hub";
import { printers } from "../helpers/demo";
import { bytesOf } from "../helpers/programs";
import { onDataOfItsOwn } from "./own-data";
import { until } from "./ways";

jest.setTimeout(60_000);

onDataOfItsOwn("saving");

/** The value of printing acceleration by its id, the line that sets it, and another value that can be changed beside it. */
const ways = {
  jerk: { id: "printAcceleration", line: (a: number) => `M204 P${a}`, other: ["homeX", 0.1] },
  deviation: { id: "printAcceleration", line: (a: number) => `M204 P${a}`, other: ["homeX", 0.1] },
  minute: { id: "printAcceleration", line: (a: number) => `M204 P${a}`, other: ["homeX", 0.1] },
  valve: { id: "printAcceleration", line: (a: number) => `M204 P${a}`, other: ["homeX", 0.1] },
  keyword: {
    id: "sharedAcceleration",
    line: (a: number) => `SET_VELOCITY_LIMIT ACCEL=${a}`,
    other: ["namedPressureAdvance", 0.03],
  },
} as const;

async function linked(printer: Printer) {
  const saved = shelf.add({ ...printer, printAccelerationMmS2: 1000 });
  const link = await connect(saved.id, { kind: "simulated", rate: 500 });
  const { memory } = simulatorOf(saved).machine;
  const { id, line, other } = ways[printer.dialect];
  const acceleration = async (value: number) => tryValue(saved.id, { id, value, why: "", confirmed: true });
  const prints = async (lines: string[]) => {
    const bytes = bytesOf(["G90", "M83", ...lines, "G4 P1"].join("\n"));
    const program = jobProgram(bytes, readProgram(bytes), limitsFor(saved));
    const job = link.begin(program, { name: "Some print", source: "file", sourceId: 1, tool: 0 });
    await until(() => !job.running, "the print ends");
  };
  const offAndOn = async () => {
    const before = link.session.restarts;
    simulatorOf(saved).powerCycle();
    await until(() => link.session.restarts > before && !link.session.halted, "it starts anew");
    await readFirmware(saved.id);
  };
  return { printer: saved, link, memory, id, line, other, acceleration, prints, offAndOn };
}

describe.each(printers)("$name", (printer) => {
  test("what a print left behind is not saved with another value, and what was saved before stays saved", async () => {
    const { printer: saved, link, memory, id, line, other, acceleration, prints, offAndOn } = await linked(printer);
    await readFirmware(saved.id);
    await acceleration(1100);
    expect((await saveValues(saved.id)).values).toEqual([{ id, meant: 1100, stored: 1100, same: true }]);
    expect(memory.saved[id]).toBe(1100);

    await prints([line(1000)]);
    expect(memory.inForce[id]).toBe(1000);
    await tryValue(saved.id, { id: other[0], value: other[1], why: "", confirmed: true });
    const { strays, isKnown } = await findStrays(saved.id);
    expect(isKnown).toBe(true);
    expect(strays).toEqual([
      {
        ...{ id, inForce: 1000, stored: 1100 },
        by: { source: "job", line: line(1000), at: expect.any(String) as string, job: "Some print" },
      },
    ]);
    // Looking changes nothing: everything is in force as it was.
    expect([memory.inForce[id], memory.inForce[other[0]]]).toEqual([1000, other[1]]);

    const { putBack, lost } = await saveValues(saved.id);
    expect([putBack, lost]).toEqual([[id], []]);
    expect([memory.saved[id], memory.saved[other[0]]]).toEqual([1100, other[1]]);
    await offAndOn();
    expect([memory.inForce[id], memory.inForce[other[0]]]).toEqual([1100, other[1]]);
    expect(snapshots.lastStored(saved.id)!.entries.find((entry) => entry.id === id)!.value).toBe(1100);
    await link.close();
  });

  test("a stray that is kept on purpose is saved", async () => {
    const { printer: saved, link, memory, id, line } = await linked(printer);
    await readFirmware(saved.id);
    await saveValues(saved.id);
    await link.session.exchange(line(900), "console");
    expect((await findStrays(saved.id)).strays).toMatchObject([
      { id, inForce: 900, stored: 1000, by: { source: "console" } },
    ]);
    expect((await saveValues(saved.id, { keep: [id] })).putBack).toEqual([]);
    expect(memory.saved[id]).toBe(900);
    await link.close();
  });

  test("the record takes over what was saved in the same step, and knows it for the firmware's own", async () => {
    const { printer: saved, link, acceleration } = await linked(printer);
    await readFirmware(saved.id);
    await acceleration(1100);
    const { record: found } = await findStrays(saved.id);
    expect(found).toContainEqual(
      expect.objectContaining({ field: "printAccelerationMmS2", inRecord: 1000, told: 1100 }),
    );
    await saveValues(saved.id, { takeOver: true });
    const record = shelf.get(saved.id)!;
    expect(record.printAccelerationMmS2).toBe(1100);
    expect(Object.keys(record.firmwareOwn)).toContain("printAccelerationMmS2");
    expect(takeOverReading(saved.id, snapshots.list(saved.id, 1)[0])).toEqual([]);
    await link.close();
  });

  test("what was tried and went with the power is said to be lost, and is not saved", async () => {
    const { printer: saved, link, memory, id, acceleration, offAndOn } = await linked(printer);
    await readFirmware(saved.id);
    await acceleration(1200);
    await new Promise((resolve) => setTimeout(resolve, 5));
    await offAndOn();
    expect(valueChanges.list(saved.id)[0].state).toBe("lost");
    await saveValues(saved.id);
    expect(memory.saved[id]).toBe(1000);
    await link.close();
  });

  test("a job that is cancelled puts back what it changed", async () => {
    const { printer: saved, link, memory, id, line } = await linked(printer);
    const bytes = bytesOf(["G90", "M83", line(777), ...Array<string>(2000).fill("G4 P200")].join("\n"));
    const program = jobProgram(bytes, readProgram(bytes), limitsFor(saved));
    const job = link.begin(program, { name: "Long", source: "file", sourceId: 1, tool: 0 });
    await until(() => memory.inForce[id] === 777, "the job has set it");
    await job.cancel();
    await until(() => memory.inForce[id] === 1000, "it is put back");
    await link.close();
  });

  test("… and what the printer has just taken and not answered yet", async () => {
    const { printer: saved, link, memory, id, line } = await linked(printer);
    const bytes = bytesOf(["G90", "M83", line(777), ...Array<string>(2000).fill("G4 P200")].join("\n"));
    const program = jobProgram(bytes, readProgram(bytes), limitsFor(saved));
    let inForce = memory.inForce[id];
    let cancelled: Promise<void> | null = null;
    // The moment it is set; its answer is still to be sent.
    Object.defineProperty(memory.inForce, id, {
      configurable: true,
      enumerable: true,
      get: () => inForce,
      set(value: number) {
        inForce = value;
        if (value === 777) cancelled ??= job.cancel();
      },
    });
    const job = link.begin(program, { name: "Long", source: "file", sourceId: 1, tool: 0 });
    await until(() => cancelled !== null, "the job has set it");
    await cancelled;
    await until(() => inForce === 1000, "it is put back");
    await link.close();
  });
});
