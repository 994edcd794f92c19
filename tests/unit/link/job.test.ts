/** Jobs, events and firmware values on a linked simulated printer, with a database of their own. */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { isHeating } from "@/core/machine/state";
import { readProgram } from "@/core/gcode/read";
import type { LinkEvent } from "@/core/link/state";
import { limitsFor } from "@/core/motion/limits";
import { JobProgram, jobProgram } from "@/core/report/progress";
import { database } from "@/server/db/connection";
import { jobs } from "@/server/db/jobs";
import { linkEvents } from "@/server/db/link-events";
import { printers as shelf } from "@/server/db/printers";
import { eventStream } from "@/server/link/event-stream";
import { putBack, readFirmware, saveValues, sendBack, tryValue } from "@/server/link/firmware";
import { connect, hub, simulatorOf } from "@/server/link/hub";
import { printers } from "../helpers/demo";
import { until } from "./ways";

// A slow machine may take its time: what is waited for has bounds of its own.
jest.setTimeout(60_000);

const folder = mkdtempSync(join(tmpdir(), "cuchara-link-"));
process.env.CUCHARA_DATA = folder;

const ids = printers.map((printer) => shelf.add(printer).id);
const [ladleId, , twinId, kettleId, sieveId] = ids;

afterAll(async () => {
  await Promise.all([...hub().links.values()].map((link) => link.close()));
  for (const host of hub().hosts.values()) host.stop();
  hub().journal.store();
  database().close();
  rmSync(folder, { recursive: true, force: true });
});

const link = (printerId: number, rate = 500) => connect(printerId, { kind: "simulated", rate });

/** A square tube of so many layers, said in inches (1 in is 25.4 mm, NIST SP 811) if that is wanted. */
function tube(layers: number, inches = false, between: readonly string[] = []): JobProgram {
  const say = (mm: number) => (inches ? (mm / 25.4).toFixed(6) : mm.toFixed(4));
  const lines = ["; a tube", "", "M104 S200", "M109 S200", "G28", inches ? "G20" : "G21", "G90", "M82", "G92 E0"];
  let e = 0;
  for (let i = 0; i < layers; i++) {
    if (i === Math.floor(layers / 2)) lines.push(...between);
    lines.push(`; layer ${i}`, `G1 Z${say(0.2 * (i + 1))} F${say(600)}`);
    for (const [x, y] of [
      [60, 40],
      [60, 60],
      [40, 60],
      [40, 40],
    ])
      lines.push(`G1 X${say(x)} Y${say(y)} E${say((e += 0.7))} F${say(3000)}`);
  }
  lines.push("M104 S0", "M107", "M84");
  const bytes = new TextEncoder().encode(lines.join("\n"));
  return jobProgram(bytes, readProgram(bytes), limitsFor(printers[0]));
}

const about = { name: "Tube", source: "trial" as const, sourceId: 1, tool: 0 };

describe("a job", () => {
  it("goes through to its end, every command once, and knows its height at each line", async () => {
    const linked = await link(ladleId);
    const program = tube(20);
    expect(program.heightMm.at(-1)).toBeCloseTo(4, 5);
    const { machine } = simulatorOf(shelf.get(ladleId)!);
    const before = machine.linesTaken;
    const job = linked.begin(program, about);
    await until(() => job.state === "done", "the job ends", 20_000);
    expect(job.status()).toMatchObject({ linesTaken: program.commands, share: 1, layers: 20, secondsLeft: 0 });
    expect(job.heightMm).toBeCloseTo(4, 5);
    // Its own lines, the one that sets the counter, and questions for temperatures.
    const asked = linkEvents
      .last(ladleId, 10_000, true)
      .filter(({ source, direction }) => source === "watch" && direction === "out");
    hub().journal.store();
    expect(machine.linesTaken - before).toBeGreaterThanOrEqual(program.commands + 1);
    expect(machine.linesTaken - before - program.commands - 1).toBeLessThanOrEqual(asked.length + 40);
    expect(machine.nozzles[0].setC).toBe(0);
    expect(jobs.get(job.id)).toMatchObject({ state: "done", totalLines: program.commands });
    await linked.close();
  });

  it("waits for whoever changes the filament, presses the pin or watches the probe, however long that takes", async () => {
    const linked = await link(ladleId);
    const { machine } = simulatorOf(shelf.get(ladleId)!);
    const between = ["M600", "M226 P2 S1", "M125", "M701 T0", "G30 X50 Y50", "G34", "M601", "G0 X40 Y40"];
    const job = linked.begin(tube(6, false, between), about);
    await until(() => linked.session.waitsFor === "person", "it waits for a person", 20_000);
    const since = machine.nowS;
    await until(() => job.state === "done", "the job ends", 40_000);
    // Five times a person, and two that probe.
    expect(machine.nowS - since).toBeGreaterThan(5 * 30);
    hub().journal.store();
    const said = linkEvents.last(ladleId, 400, true).map(({ text }) => text);
    expect(said.filter((text) => /Unknown command|not supported/i.test(text))).toEqual([]);
    expect(job.status()).toMatchObject({ share: 1, layers: 6 });
    await linked.close();
  });

  it("is paused with the nozzle lifted, resumed where it was, and its changes by hand stand at their height", async () => {
    const linked = await link(ladleId, 100);
    const job = linked.begin(tube(60), about);
    await until(() => job.heightMm > 1, "it prints", 20_000);
    await job.pause();
    const { place } = simulatorOf(shelf.get(ladleId)!).machine;
    const lifted = { ...place };
    const taken = job.linesTaken;
    await new Promise((resolve) => setTimeout(resolve, 60));
    expect(job.linesTaken).toBe(taken);
    expect(jobs.get(job.id)!.state).toBe("paused");
    await job.resume();
    expect(lifted.z - job.heightMm).toBeGreaterThan(4);
    job.nudge("flowFactor", 104);
    expect(() => job.nudge("nozzleTemperature", 900)).toThrow(/must be 0 to 260/);
    expect(() => job.nudge("acceleration", 900)).toThrow(/cannot be changed while a job runs/);
    await until(() => job.state === "done", "the job ends", 30_000);
    expect(simulatorOf(shelf.get(ladleId)!).machine.state.flowPercent).toEqual([104]);
    const [mark] = job.listMarks();
    expect(mark).toMatchObject({ setting: "flowFactor", value: 104 });
    expect(mark.heightMm).toBeGreaterThan(1);
    await linked.close();
  });

  it("holds where its program waits for a person, says what for, and goes on when it is told to", async () => {
    const linked = await link(ladleId);
    const lines = [
      "M104 S200",
      "M109 S200",
      "G28",
      "G90",
      "M83",
      "G1 X40 F3000",
      "M117 Mark it",
      "M0",
      "G1 E5 F300",
      "M104 S0",
    ];
    const bytes = new TextEncoder().encode(lines.join("\n"));
    const program = jobProgram(bytes, readProgram(bytes), limitsFor(printers[0]));
    const job = linked.begin(program, about);
    await until(() => job.state === "paused", "it holds", 20_000);
    const { machine } = simulatorOf(shelf.get(ladleId)!);
    // Every move before it is done, nothing is lifted, and nothing behind it was sent.
    expect(machine.place.x).toBeCloseTo(40, 3);
    expect(job.status()).toMatchObject({ why: "The program waits: Mark it.", linesTaken: lines.length - 2 });
    await new Promise((resolve) => setTimeout(resolve, 60));
    expect(job.state).toBe("paused");
    await job.resume();
    await until(() => job.state === "done", "it goes on to its end", 20_000);
    expect(job.status()).toMatchObject({ why: "", linesTaken: program.commands, share: 1 });
    await linked.close();
  });

  it("goes on as it was when it is resumed at once, while the nozzle is still being lifted", async () => {
    const linked = await link(ladleId, 50);
    const job = linked.begin(tube(30), about);
    await until(() => job.heightMm > 1, "it prints", 20_000);
    const host = simulatorOf(shelf.get(ladleId)!);
    const paused = job.pause();
    // The lines of the lift are taken one a turn: every turn is looked at, so that none is missed.
    while (!linked.session.told.relative) await new Promise((resolve) => setImmediate(resolve));
    const resumed = job.resume();
    await Promise.all([paused, resumed]);
    expect(linked.session.told).toMatchObject({ relative: false, relativeE: false });
    const { machine } = host;
    await until(() => job.state === "done", "the job ends", 30_000);
    await until(() => machine.planner.empty, "the moves end");
    expect(machine.place.z).toBeCloseTo(6, 3);
    await linked.close();
  });

  it("that counts in inches is lifted by millimetres, and goes on in inches", async () => {
    const linked = await link(ladleId, 100);
    const job = linked.begin(tube(40, true), about);
    await until(() => job.heightMm > 1, "it prints", 20_000);
    const { machine } = simulatorOf(shelf.get(ladleId)!);
    await job.pause();
    const lift = machine.place.z - job.heightMm;
    await job.resume();
    expect(linked.session.told.unitMm).toBe(25.4);
    await until(() => job.state === "done", "the job ends", 30_000);
    await until(() => machine.planner.empty, "the moves end");
    expect([lift > 4, lift < 20]).toEqual([true, true]);
    expect(machine.place.z).toBeCloseTo(8, 2);
    const next = linked.begin(tube(40, true), about);
    await until(() => next.heightMm > 1, "it prints", 20_000);
    await next.cancel();
    await until(() => machine.planner.empty, "it is parked");
    expect(machine.place.z - next.heightMm).toBeLessThan(60);
    await linked.close();
  });

  it("that is cancelled leaves the printer cold and parked", async () => {
    const linked = await link(twinId, 200);
    const job = linked.begin(tube(40), about);
    await until(() => job.heightMm > 0.5, "it prints", 20_000);
    await job.cancel();
    const { machine } = simulatorOf(shelf.get(twinId)!);
    expect(machine.nozzles.map(({ setC }) => setC)).toEqual([0, 0]);
    expect([machine.bed.setC, machine.fanDuty[0]]).toEqual([0, 0]);
    expect(job.status()).toMatchObject({ state: "cancelled", why: "Cancelled by hand." });
    expect(() => linked.begin(tube(2), about)).not.toThrow();
    await linked.close();
  });

  it("is told as broken when the printer resets, and when this program ends", async () => {
    const linked = await link(ladleId, 100);
    const job = linked.begin(tube(60), about);
    await until(() => job.heightMm > 0.5, "it prints", 20_000);
    await new Promise((resolve) => setTimeout(resolve, 300));
    simulatorOf(shelf.get(ladleId)!).powerCycle();
    await until(() => job.state === "broken", "the reset is noticed");
    const record = jobs.get(job.id)!;
    expect(record).toMatchObject({ state: "broken", why: "The printer has started anew.", seen: false });
    // A printer that has started anew is cold.
    expect(isHeating(record.told)).toBe(false);
    expect(jobs.brokenUnseen().map(({ id }) => id)).toContain(job.id);
    jobs.see(job.id);
    expect(jobs.brokenUnseen().map(({ id }) => id)).not.toContain(job.id);

    const left = jobs.begin({ printerId: ladleId, source: "file", sourceId: 1, name: "Left", totalLines: 100 });
    jobs.breakOpen();
    expect(jobs.get(left)).toMatchObject({ state: "broken", why: "Cuchara ended while it ran." });
    await linked.close();
  });

  it("is refused while another one runs, and on a printer that is not linked", async () => {
    const linked = await link(kettleId, 20);
    linked.begin(tube(30), about);
    expect(() => linked.begin(tube(2), about)).toThrow(/is still running/);
    await expect(link(kettleId)).rejects.toThrow(/Cancel it before/);
    await until(() => simulatorOf(shelf.get(kettleId)!).machine.nozzles[0].setC === 200, "it heats");
    simulatorOf(shelf.get(kettleId)!).pull();
    // Whose cable was pulled is still hot, and that is told.
    expect(jobs.brokenUnseen().find(({ printerId }) => printerId === kettleId)).toMatchObject({
      told: { nozzleC: [200] },
    });
    expect(() => linked.begin(tube(2), about)).toThrow(/is not linked/);
  });
});

describe("temperatures", () => {
  it("are asked for only while somebody looks", async () => {
    const linked = await link(ladleId);
    const asked = () => (
      hub().journal.store(),
      linkEvents.last(ladleId, 50_000, true).filter(({ source }) => source === "watch").length
    );
    const before = asked();
    await new Promise((resolve) => setTimeout(resolve, 250));
    expect(asked()).toBe(before);
    const end = linked.watch();
    await until(() => asked() > before + 3, "it asks");
    end();
    await new Promise((resolve) => setTimeout(resolve, 150));
    const after = asked();
    await new Promise((resolve) => setTimeout(resolve, 300));
    expect(asked()).toBe(after);
    await linked.close();
  });
});

/** Reads server-sent events until something holds. */
async function listen(
  afterId: number | null,
  act: () => Promise<void>,
  enough: (events: LinkEvent[]) => boolean,
): Promise<LinkEvent[]> {
  const gone = new AbortController();
  const reader = eventStream(ladleId, {
    caller: "bench",
    afterId,
    all: false,
    heat: false,
    signal: gone.signal,
  }).getReader();
  const events: LinkEvent[] = [];
  let text = "";
  const acted = act();
  while (!enough(events)) {
    const { value, done } = await reader.read();
    if (done) break;
    text += new TextDecoder().decode(value);
    for (let end = text.indexOf("\n\n"); end >= 0; end = text.indexOf("\n\n")) {
      const data = /event: lines\ndata: (.*)/.exec(text.slice(0, end));
      if (data) events.push(...(JSON.parse(data[1]) as LinkEvent[]));
      text = text.slice(end + 2);
    }
  }
  await acted;
  gone.abort();
  return events;
}

describe("events", () => {
  it("resume behind the last one without a gap and without a double", async () => {
    const linked = await link(ladleId);
    const talk = async (from: number, to: number) => {
      for (let i = from; i < to; i++) await linked.session.exchange(`M118 word ${i}`, "console");
    };
    const said = (events: LinkEvent[]) =>
      events.filter(({ direction, text }) => direction === "in" && text.startsWith("word")).map(({ text }) => text);
    const first = await listen(
      null,
      () => talk(0, 10),
      (events) => said(events).length >= 5,
    );
    // Nobody listens now.
    await talk(10, 30);
    const second = await listen(
      first[first.length - 1].id,
      () => talk(30, 40),
      (events) => said(events).at(-1) === "word 39",
    );
    expect([...said(first), ...said(second)]).toEqual(Array.from({ length: 40 }, (_, i) => `word ${i}`));
    const all = [...first, ...second].map(({ id }) => id);
    expect(all).toEqual([...new Set(all)].sort((a, b) => a - b));

    // The whole day can be read again.
    hub().journal.store();
    const [{ day }] = linkEvents.days(ladleId);
    const texts = linkEvents.ofDay(ladleId, day, 0, 100_000).map(({ text }) => text);
    expect(texts.filter((text) => text.startsWith("word"))).toHaveLength(40);
    await linked.close();
  });
});

describe("firmware values", () => {
  it.each([
    [ladleId, "pressureAdvance", "M900 K0.05"],
    [twinId, "pressureAdvancePerTool@1", "M572 D1 S0.05"],
    [sieveId, "namedPressureAdvance", "SET_PRESSURE_ADVANCE ADVANCE=0.05"],
  ])("of printer %i are read, tried, saved and outlive the power", async (printerId, id, line) => {
    await link(printerId);
    await readFirmware(printerId);
    const { change, taken } = await tryValue(printerId, { id, value: 0.05, why: "a tower", confirmed: false });
    expect(change).toMatchObject({ line, from: 0, to: 0.05, why: "a tower", state: "tried" });
    expect(taken).toBe(true);
    expect((await saveValues(printerId)).lost).toEqual([]);
    simulatorOf(shelf.get(printerId)!).powerCycle();
    // The banner comes before anything else is asked.
    await new Promise((resolve) => setTimeout(resolve, 60));
    const { entries } = await readFirmware(printerId);
    expect(entries.find((entry) => entry.id === id)!.value).toBe(0.05);
    // A simulated printer's memory outlives this program: a new one of the same printer has it too.
    hub().hosts.delete(printerId);
    expect(simulatorOf(shelf.get(printerId)!).machine.memory.inForce[id]).toBe(0.05);
  });

  it("are put back, and an earlier reading can be sent back", async () => {
    await link(ladleId);
    const before = await readFirmware(ladleId);
    await expect(
      tryValue(ladleId, { id: "printAcceleration", value: 2000, why: "", confirmed: false }),
    ).rejects.toThrow(/100 % more/);
    const { change } = await tryValue(ladleId, { id: "printAcceleration", value: 1100, why: "", confirmed: false });
    const back = await putBack(ladleId, change.id);
    expect(back.entries.find(({ id }) => id === "printAcceleration")!.value).toBe(1000);
    await tryValue(ladleId, { id: "jerkX", value: 9, why: "", confirmed: false });
    await tryValue(ladleId, { id: "jerkY", value: 7, why: "", confirmed: false });
    const { snapshot, sent } = await sendBack(ladleId, before.id);
    expect(sent).toBe(2);
    expect(snapshot.entries.map(({ id, value }) => [id, value])).toEqual(
      before.entries.map(({ id, value }) => [id, value]),
    );
  });
});
