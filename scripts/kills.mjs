/**
 * `npm run kills`: the program is killed at random moments while it saves, receives and reads files, saves edits and edited files, runs a
 * job, thins the talk, reads a bench in, removes things and puts them back, makes a backup, and, every fifth time, puts one in place. Nothing
 * acknowledged may be lost, nothing may be there by half, every start must be quick, and a backup must be whole.
 *
 *   --rounds 100      how often
 *   --start-ms 2000   how long a start may take (the middle one of all)
 */
import sharp from "sharp";
import Database from "better-sqlite3";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { parseArgs } from "node:util";
import { good, plainPrinter, plainSpool, startProgram } from "./own-program.cjs";
import { build, install } from "./prepare.mjs";

const { values } = parseArgs({
  options: {
    rounds: { type: "string", default: "100" },
    "start-ms": { type: "string", default: "2000" },
    data: { type: "string" },
  },
});
await install();
await build();
const rounds = Number(values.rounds);
const data = values.data ?? mkdtempSync(join(tmpdir(), "cuchara-kills-"));
const problems = [];
const starts = [];
const sums = {
  writes: 0,
  uploads: 0,
  edits: 0,
  backups: 0,
  jobs: 0,
  marks: 0,
  photos: 0,
  removed: 0,
  imports: 0,
  saved: 0,
  restores: 0,
};
/** What was acknowledged: name → newest acknowledged height, id → name. */
const trialHeights = new Map();
const spoolNames = new Map();
const fileEdits = new Map();
/** Pieces, each with the marks of its bands. */
const runMarks = new Map();
/** … and how many photos there are of it. */
const runPhotos = new Map();
let runId = null;
/** Spools that were removed (true) or put back (false), by id; undefined while it is not known which. */
const binned = new Map();
/** Benches that were read in, by the beginning of their trials' names: whether that was acknowledged. */
const imported = new Map();
/** So many trials has each. */
const IMPORTED_TRIALS = 40;

/** A tube of so many layers. */
function tube(layers) {
  const lines = ["M104 S200", "M109 S200", "G28", "G90", "M83"];
  for (let i = 1; i <= layers; i++) {
    lines.push(`; layer ${i}`, `G1 Z${(i * 0.2).toFixed(1)} F600`);
    for (const [x, y] of ["60 40", "60 60", "40 60", "40 40"].map((at) => at.split(" ")))
      lines.push(`G1 X${x} Y${y} E0.7 F3000`);
  }
  return `${lines.join("\n")}\nM104 S0\n`;
}

/** Goes on with an act until the program is gone. */
async function on(isEnded, act) {
  for (let turn = 0; !isEnded(); turn++) {
    try {
      await act(turn);
    } catch (error) {
      // The program is gone, or its answer was cut off: nothing was acknowledged.
      if (isEnded()) return;
      await new Promise((resolve) => setTimeout(resolve, 5));
      if (String(error).includes("assert")) throw error;
    }
  }
}

async function look(program) {
  const trials = (await program.ask("GET", "/api/trials")).body;
  for (const [id, height] of trialHeights) {
    const found = trials.find((trial) => trial.id === id);
    if (!found) problems.push(`trial ${id} is gone`);
    // A newer write may have been stored and not acknowledged.
    else if (found.plan.bands[0].heightMm < height)
      problems.push(`trial ${id}: ${found.plan.bands[0].heightMm} < ${height}`);
  }
  const spools = (await program.ask("GET", "/api/spools")).body;
  for (const [id, name] of spoolNames)
    if (spools.find((spool) => spool.id === id)?.name !== name) problems.push(`spool ${id} is not ${name}`);
  for (const [id, count] of fileEdits) {
    const { status, body } = await program.ask("GET", `/api/files/${id}`);
    if (status !== 200) problems.push(`file ${id}: ${status}`);
    else if (body.version < count) problems.push(`file ${id}: edits ${body.version} < ${count}`);
  }
  for (const [id, marks] of runMarks) {
    const { status, body } = await program.ask("GET", `/api/runs/${id}`);
    if (status !== 200) problems.push(`run ${id}: ${status}`);
    // One more may have been stored and not acknowledged; none that was may be gone.
    else if ((body.readings[0]?.marks.length ?? 0) < marks.size)
      problems.push(`run ${id}: ${body.readings[0]?.marks.length ?? 0} marks < ${marks.size}`);
  }
  for (const [id, count] of runPhotos) {
    const { body } = await program.ask("GET", `/api/runs/${id}/photos`);
    if (body.length < count) problems.push(`run ${id}: ${body.length} photos < ${count}`);
  }
  const resting = new Set(
    (await program.ask("GET", "/api/bin")).body.filter(({ table }) => table === "spools").map(({ id }) => id),
  );
  const shelved = new Set(spools.map(({ id }) => id));
  for (const [id, { name, isRemoved }] of binned) {
    // The bin shows its newest things; an older one is found by its name.
    if (!resting.has(id) && !shelved.has(id)) {
      const found = (await program.ask("GET", `/api/bin?search=${name}`)).body;
      if (found.some((one) => one.table === "spools" && one.id === id)) resting.add(id);
    }
    if (resting.has(id) === shelved.has(id)) problems.push(`spool ${id} is in the bin and on the shelf, or in neither`);
    else if (isRemoved !== undefined && resting.has(id) !== isRemoved)
      problems.push(`spool ${id}: removed ${isRemoved}`);
  }
  for (const [name, isSaid] of imported) {
    const count = trials.filter((trial) => trial.name.startsWith(`${name} `)).length;
    if (count !== IMPORTED_TRIALS && (isSaid || count !== 0)) problems.push(`bench ${name}: ${count} of its trials`);
  }
  const jobs = (await program.ask("GET", "/api/link/jobs?printerId=1")).body;
  const pieces = new Set((await program.ask("GET", `/api/trials/${trialId}/runs`)).body.map(({ jobId }) => jobId));
  // What a job of a trial has laid is a piece, however the job ended.
  for (const { id, source, heightMm } of jobs)
    if (source === "trial" && heightMm > 0 && !pieces.has(id))
      problems.push(`job ${id} came to ${heightMm} mm and left no piece`);
  const running = jobs.filter(({ state }) => state === "running");
  if (running.length > 0) problems.push(`a job still counts as running`);
}

/** Puts a backup in place and kills the program meanwhile: behind it everything is as before or as in the backup, and as said. */
async function killRestore(round) {
  const taken = Buffer.from(await (await fetch(`${program.address}/api/backup`)).arrayBuffer());
  const { id } = good(await program.ask("POST", "/api/spools", { ...plainSpool, name: `R${round}` }));
  let isSaid = false;
  const restoring = fetch(`${program.address}/api/restore`, { method: "POST", body: taken }).then(
    ({ status }) => (isSaid = status === 200),
    () => undefined,
  );
  await new Promise((resolve) => setTimeout(resolve, Math.random() * 900));
  await program.kill();
  await restoring;
  program = await startProgram(data);
  starts.push(program.startMs);
  const isThere = (await program.ask("GET", "/api/spools")).body.some((spool) => spool.id === id);
  if (isSaid && isThere) problems.push(`the restore of round ${round} was acknowledged and is not there`);
  sums.restores++;
  await look(program);
}

let program = await startProgram(data);
const printerId = good(await program.ask("POST", "/api/printers", plainPrinter)).id;
const spoolId = good(await program.ask("POST", "/api/spools", plainSpool)).id;
/** A spool with all that a record has, as benches carry them. */
const wholeSpool = (await program.ask("GET", `/api/spools/${spoolId}`)).body;
await program.ask("PUT", "/api/bench", { printerId, spoolId });
const { id: trialId, plan } = good(
  await program.ask("POST", "/api/trials", { kind: "temperature", printerId, spoolId }),
);
const photo = await sharp({ create: { width: 40, height: 30, channels: 3, background: "#b98a2f" } })
  .jpeg()
  .toBuffer();
const text = tube(300);
const { id: fileId } = good(await program.ask("POST", "/api/files?name=tube.gcode", text));

for (let round = 1; round <= rounds; round++) {
  let ended = false;
  const { ask } = program;
  const isEnded = () => ended;
  const works = [
    on(isEnded, async () => {
      // A height that only rises: an older one at the next start would be a write that was lost.
      const bands = plan.bands.map((band) => ({ ...band, heightMm: 5 + sums.writes * 1e-5 }));
      const { status } = await ask("PUT", `/api/trials/${trialId}`, { plan: { ...plan, bands } });
      if (status === 200) trialHeights.set(trialId, bands[0].heightMm);
      else problems.push(`PUT trial: ${status}`);
      sums.writes++;
    }),
    on(isEnded, async (turn) => {
      const name = `S${round}-${turn}`;
      const { status, body } = await ask("POST", "/api/spools", { ...plainSpool, name });
      if (status === 201) spoolNames.set(body.id, name);
      sums.writes++;
      // Lists of thousands are another test's matter.
      await new Promise((resolve) => setTimeout(resolve, 25));
    }),
    on(isEnded, async (turn) => {
      const { status, body } = await ask("POST", `/api/files?name=u${round}-${turn}.gcode`, text.repeat(20));
      if (status === 201) {
        fileEdits.set(body.id, 1);
        sums.uploads++;
        if (turn > 0) {
          fileEdits.delete(body.id);
          await ask("DELETE", `/api/files/${body.id}`);
        }
      }
    }),
    on(isEnded, async (turn) => {
      const value = 200 + (turn % 30);
      const edits = [
        { kind: "height-plan", changes: [{ from: { heightMm: 3 }, settings: { nozzleTemperature: value } }] },
      ];
      const { status, body } = await ask("PUT", `/api/files/${fileId}/edits`, edits);
      if (status === 200) {
        fileEdits.set(fileId, body.version);
        sums.edits++;
      }
    }),
    on(isEnded, async () => {
      await ask("POST", "/api/link/connect", { printerId, transport: { kind: "simulated", rate: 200 } });
      const what = Math.random() < 0.5 ? { fileId } : { trialId };
      const { status } = await ask("POST", "/api/link/job", { printerId, ...what });
      if (status === 201) sums.jobs++;
      await new Promise((resolve) => setTimeout(resolve, 400));
    }),
    on(isEnded, async (turn) => {
      // A piece is said to be printed, and its bands are marked one after the other.
      if (turn % 10 === 0 || runId === null) {
        const { status, body } = await ask("POST", `/api/trials/${trialId}/runs`);
        if (status !== 201) return;
        runId = body.id;
        runMarks.set(runId, new Map());
        return;
      }
      if (turn % 10 === 5) {
        const response = await fetch(`${program.address}/api/runs/${runId}/photos`, { method: "POST", body: photo });
        if (response.status !== 201) return;
        runPhotos.set(runId, (runPhotos.get(runId) ?? 0) + 1);
        sums.photos++;
        return;
      }
      const [band, mark] = [1 + (turn % 5), turn % 5];
      const { status } = await ask("PUT", `/api/runs/${runId}/readings/bench`, {
        marks: [{ band, criterion: "bond", mark }],
      });
      if (status === 200) {
        runMarks.get(runId).set(band, mark);
        sums.marks++;
      } else problems.push(`PUT reading: ${status}`);
    }),
    on(isEnded, async (turn) => {
      const name = `B${round}-${turn}`;
      const { status, body } = await ask("POST", "/api/spools", { ...plainSpool, name });
      if (status !== 201) return;
      for (const act of ["remove", "restore", "remove"].slice(0, 1 + (turn % 3))) {
        binned.set(body.id, { name, isRemoved: undefined });
        const done =
          act === "remove"
            ? await ask("DELETE", `/api/spools/${body.id}`)
            : await ask("POST", `/api/spools/${body.id}/restore`);
        if (done.status === 200) binned.set(body.id, { name, isRemoved: act === "remove" });
        sums.removed++;
      }
      await new Promise((resolve) => setTimeout(resolve, 40));
    }),
    on(isEnded, async (turn) => {
      const name = `I${round}-${turn}`;
      const trial = { kind: "temperature", printer: 0, spool: 0, tool: 0, options: {} };
      const trials = Array.from({ length: IMPORTED_TRIALS }, (_, i) => ({ ...trial, name: `${name} ${i}` }));
      const bench = { format: "cuchara-bench", version: 1, kept: [], trials };
      imported.set(name, false);
      const { status } = await ask("POST", "/api/kept/import", {
        ...bench,
        ...{ printers: [{ ...plainPrinter, name }], spools: [{ ...wholeSpool, name }] },
      });
      if (status === 201) {
        imported.set(name, true);
        sums.imports++;
      } else if (status === 400) problems.push(`import: ${status}`);
      await new Promise((resolve) => setTimeout(resolve, 700));
    }),
    on(isEnded, async (turn) => {
      const { status, body } = await ask("POST", `/api/files/${fileId}/save`, { name: `saved${round}-${turn}.gcode` });
      if (status !== 201) return;
      fileEdits.set(body.id, 1);
      sums.saved++;
      await new Promise((resolve) => setTimeout(resolve, 300));
    }),
    on(isEnded, async (turn) => {
      const response = await fetch(`${program.address}/api/backup`);
      const bytes = Buffer.from(await response.arrayBuffer());
      if (response.status !== 200 || bytes.length !== Number(response.headers.get("content-length") ?? bytes.length))
        return;
      const path = join(data, "taken.backup");
      writeFileSync(path, bytes);
      const backup = new Database(path, { readonly: true });
      const whole = backup.pragma("integrity_check", { simple: true });
      if (whole !== "ok") problems.push(`backup ${round}-${turn}: ${whole}`);
      if (backup.prepare("SELECT COUNT(*) AS n FROM trials").get().n < 1) problems.push("a backup without the trial");
      backup.close();
      sums.backups++;
    }),
  ];
  await new Promise((resolve) => setTimeout(resolve, 500 + Math.random() * 5000));
  ended = true;
  await program.kill();
  await Promise.all(works);
  program = await startProgram(data);
  starts.push(program.startMs);
  await look(program);
  if (round % 5 === 0) await killRestore(round);
}
await program.end();
const database = new Database(join(data, "cuchara.db"), { readonly: true });
if (database.pragma("integrity_check", { simple: true }) !== "ok") problems.push("the database is not whole");
if (database.pragma("foreign_key_check").length > 0) problems.push("foreign keys do not fit");
database.close();
rmSync(data, { recursive: true, force: true });
starts.sort((a, b) => a - b);
const slowest = starts.at(-1) ?? 0;
const middle = starts[Math.floor(starts.length / 2)];
if (middle > Number(values["start-ms"])) problems.push(`starts take ${middle} ms`);
console.log(
  `${rounds} kills: ${sums.writes} writes, ${sums.uploads} uploads, ${sums.edits} edits, ${sums.jobs} jobs, ${sums.marks} marks, ${sums.photos} photos, ${sums.backups} backups, ${sums.removed} removed or put back, ${sums.imports} benches read in, ${sums.saved} edited files, ${sums.restores} restores; start ${middle} ms, slowest ${slowest} ms`,
);
for (const problem of [...new Set(problems)].slice(0, 20)) console.log(problem);
console.log(problems.length === 0 ? "nothing acknowledged was lost" : `${problems.length} problems`);
process.exit(problems.length === 0 ? 0 : 1);
