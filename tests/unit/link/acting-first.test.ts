/** Acting comes before writing: whatever the disk does, the printer hears what it is told, and the page hears what was not written. */
import { readProgram } from "@/core/gcode/read";
import { limitsFor } from "@/core/motion/limits";
import { jobProgram } from "@/core/report/progress";
import { jobs } from "@/server/db/jobs";
import { linkEvents } from "@/server/db/link-events";
import { printers as shelf } from "@/server/db/printers";
import { connect, hub, simulatorOf } from "@/server/link/hub";
import { Ledger } from "@/server/link/ledger";
import { bytesOf } from "../helpers/programs";
import { ladle } from "../helpers/demo";
import { onDataOfItsOwn } from "./own-data";
import { until } from "./ways";

jest.setTimeout(60_000);

onDataOfItsOwn("full");

const full = () => Object.assign(new Error("database or disk is full"), { code: "SQLITE_FULL" });

/** From now on the disk takes nothing; gives what makes room again. */
function fillDisk(): () => void {
  const refuse = () => {
    throw full();
  };
  const spies = [
    jest.spyOn(jobs, "progress").mockImplementation(refuse),
    jest.spyOn(jobs, "end").mockImplementation(refuse),
    jest.spyOn(jobs, "mark").mockImplementation(refuse),
    jest.spyOn(linkEvents, "addAll").mockImplementation(refuse),
  ];
  return () => spies.forEach((spy) => spy.mockRestore());
}

const tower = () => {
  const lines = ["M104 S200", "G28", "G90", "M83"];
  for (let i = 1; i <= 400; i++) lines.push(`G1 Z${(i * 0.2).toFixed(1)} F600`, "G1 X60 Y60 E1 F1200", "G1 X20 Y20 E1");
  const bytes = bytesOf(`${lines.join("\n")}\n`);
  return jobProgram(bytes, readProgram(bytes), limitsFor(ladle));
};

async function printing() {
  const printer = shelf.add(ladle);
  const link = await connect(printer.id, { kind: "simulated", rate: 100 });
  const { machine } = simulatorOf(printer);
  const job = link.begin(tower(), { name: "Tower", source: "trial", sourceId: 1, tool: 0 });
  await until(() => job.heightMm > 1, "it prints", 20_000);
  return { link, job, machine };
}

test("on a full disk cancelling switches the heaters off, and the page says what could not be written", async () => {
  const { link, job, machine } = await printing();
  const makeRoom = fillDisk();
  await job.cancel();
  expect([job.state, machine.nozzles[0].setC]).toEqual(["cancelled", 0]);
  const taken = machine.linesTaken;
  await new Promise((resolve) => setTimeout(resolve, 300));
  expect(machine.linesTaken).toBe(taken);
  expect(link.status().unwritten).toMatch(/disk is full/);
  makeRoom();
  await until(() => link.status().unwritten === null, "it is written down", 5000);
  expect(jobs.get(job.id)).toMatchObject({ state: "cancelled", why: "Cancelled by hand." });
});

test("pausing lifts the nozzle, a change by hand goes out, and the stop stops", async () => {
  const { link, job, machine } = await printing();
  const makeRoom = fillDisk();
  job.nudge("flowFactor", 104);
  await until(() => machine.state.flowPercent[0] === 104, "the change is taken");
  await job.pause();
  expect(machine.place.z - job.heightMm).toBeGreaterThan(4);
  await job.resume();
  link.session.emergencyStop();
  await until(() => machine.halted, "it stops");
  expect([job.state, link.status().job?.state]).toEqual(["broken", "broken"]);
  makeRoom();
  await until(() => jobs.marks(job.id).length === 1, "the change is written down", 5000);
});

test("talk that could not be stored is stored when there is room, in order and once", async () => {
  const printer = shelf.add(ladle);
  const link = await connect(printer.id, { kind: "simulated", rate: 100 });
  const makeRoom = fillDisk();
  for (let i = 0; i < 40; i++) await link.session.exchange(`M117 ${i}`, "console");
  hub().journal.store();
  makeRoom();
  hub().journal.store();
  hub().journal.ledger.settle();
  const said = linkEvents.last(printer.id, 1000, true).filter(({ direction }) => direction === "out");
  expect(said.map(({ text }) => text)).toEqual(Array.from({ length: 40 }, (_, i) => `M117 ${i}`));
});

test("a ledger keeps the newest of each key, tries again in order, and never throws", () => {
  const seen: string[] = [];
  let isFull = true;
  const entry = (text: string) => () => {
    if (isFull) throw full();
    seen.push(text);
  };
  const told: (string | null)[] = [];
  const ledger: Ledger = new Ledger(() => told.push(ledger.trouble));
  ledger.write("job 1", entry("progress 1"));
  ledger.write("mark 1", entry("mark 1"));
  ledger.write("job 1", entry("progress 2"));
  expect(ledger.trouble).toMatch(/disk is full/);
  isFull = false;
  ledger.settle();
  expect([seen, ledger.trouble, told.length]).toEqual([["mark 1", "progress 2"], null, 2]);
});
