/**
 * The proof, proved: faults of the kinds that edits have had are planted into files that were edited rightly, and must be found; right edits
 * must not be called wrong. Whether something that was planted makes a difference at all is judged by an interpreter that shares nothing with the
 * core (`helpers/beads`).
 */
import fc from "fast-check";
import { Edit } from "@/core/edits";
import { proveOne } from "@/core/edits/prove";
import { Interpreted, interpret } from "../helpers/beads";
import { editable, tryEdits } from "../helpers/edits";
import { editSamples, parsedEdit, SampleFile, sampleFiles, wide } from "../helpers/edit-samples";
import { applySplices } from "@/core/edits/splices/splicer";
import { bytesOf, textOf } from "../helpers/programs";

/** More of them, and others, when asked. */
const FAULTS = Number(process.env.FAULTS ?? 300);
const RIGHT = Number(process.env.RIGHT ?? 300);
const SEED = Number(process.env.SEED ?? 1);

/** A row of figures without end, the same for the same seed (mulberry32, public domain). */
function dice(seed: number): (most: number) => number {
  let state = seed;
  return (most) => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) % most;
  };
}

interface Right {
  name: string;
  file: SampleFile;
  edit: Edit;
  after: string;
}

/** Right edits without end: every kind over every file that can take it. */
function* rightEdits(seed: number): Generator<Right> {
  const roll = dice(seed);
  const kinds = Object.entries(editSamples);
  for (let n = 0; ; n++) {
    const [name, samples] = kinds[n % kinds.length];
    const file = name === "bridges" ? sampleFiles[sampleFiles.length - 1] : sampleFiles[roll(sampleFiles.length)];
    const printer = name === "inside as one" ? wide(file.printer) : file.printer;
    const edit = parsedEdit(fc.sample(samples, { numRuns: 1, seed: seed * 1000 + n })[0]);
    const tried = tryEdits(file.text, [edit], printer);
    if (!tried.ok) continue;
    const after = textOf(applySplices(bytesOf(file.text), tried.value.splices));
    yield { name, file: { ...file, printer }, edit, after };
  }
}

const prove = ({ file, edit }: Right, text: string) => {
  const seen = editable(file.text, file.printer);
  return proveOne(edit, seen.original, editable(text, file.printer).original, file.printer).wrong;
};

/** Where a file differs from the one before: lines (from 0) of the file after that were put in or changed. */
function linesOfTheEdit(before: string[], after: string[]): number[] {
  const had = new Map<string, number>();
  for (const line of before) had.set(line, (had.get(line) ?? 0) + 1);
  const own: number[] = [];
  after.forEach((line, i) => {
    const left = had.get(line) ?? 0;
    if (left > 0) had.set(line, left - 1);
    else own.push(i);
  });
  return own;
}

type Fault = (lines: string[], at: number, roll: (most: number) => number) => string[] | null;

const withFigure = (line: string, letters: string, to: (figure: number) => number): string | null => {
  const found = new RegExp(`([${letters}])(-?[\\d.]+)`).exec(line.replace(/;.*/, ""));
  if (!found) return null;
  const changed = to(Number(found[2]));
  return line.replace(`${found[1]}${found[2]}`, `${found[1]}${Number(changed.toFixed(4))}`);
};
const inPlace = (lines: string[], at: number, line: string | null) =>
  line === null || line === lines[at] ? null : [...lines.slice(0, at), line, ...lines.slice(at + 1)];

/** What goes wrong with edits. */
const faults: Record<string, Fault> = {
  "a line that restores is dropped": (lines, at) => [...lines.slice(0, at), ...lines.slice(at + 1)],
  "a line is said twice": (lines, at) => [...lines.slice(0, at + 1), ...lines.slice(at)],
  "two lines in the wrong order": (lines, at) =>
    at + 1 < lines.length ? [...lines.slice(0, at), lines[at + 1], lines[at], ...lines.slice(at + 2)] : null,
  "another heat, fan or factor": (lines, at) =>
    /^M/.test(lines[at])
      ? inPlace(
          lines,
          at,
          withFigure(lines[at], "S", (s) => (s > 0 ? s * 0.9 : 40)),
        )
      : null,
  "another feed": (lines, at) =>
    inPlace(
      lines,
      at,
      withFigure(lines[at], "F", (feed) => feed * 0.7),
    ),
  "another amount of filament": (lines, at) =>
    inPlace(
      lines,
      at,
      withFigure(lines[at], "E", (e) => e * 1.1 + 0.05),
    ),
  "another place": (lines, at) =>
    inPlace(
      lines,
      at,
      withFigure(lines[at], "XY", (mm) => mm + 1.5),
    ),
  "too low": (lines, at) =>
    inPlace(
      lines,
      at,
      withFigure(lines[at], "Z", (mm) => mm - 0.6),
    ),
  "a tool not named": (lines, at) => inPlace(lines, at, lines[at].replace(/ T\d/, "")),
  "the wrong tool": (lines, at) =>
    inPlace(
      lines,
      at,
      lines[at].replace(/\bT(\d)/, (_, tool) => `T${1 - Number(tool)}`),
    ),
  "the wrong mode": (lines, at) =>
    inPlace(
      lines,
      at,
      lines[at].replace(/^(G9[01]|M8[23]|G2[01])$/, (mode) => modes[mode] ?? mode),
    ),
};
const modes: Record<string, string> = { G90: "G91", G91: "G90", M82: "M83", M83: "M82", G20: "G21", G21: "G20" };

/** The edit one layer off. */
function oneLayerOff({ edit, file }: Right, roll: (most: number) => number): string | null {
  const shifted = JSON.parse(JSON.stringify(edit)) as Record<string, unknown> & { scope?: Record<string, number> };
  const scope = (shifted.scope ?? shifted) as Record<string, number>;
  const field = roll(2) === 0 ? "fromLayer" : "toLayer";
  if (typeof scope[field] !== "number") return null;
  scope[field] += roll(2) === 0 ? 1 : -1;
  try {
    const tried = tryEdits(file.text, [parsedEdit(shifted)], file.printer);
    return tried.ok ? textOf(applySplices(bytesOf(file.text), tried.value.splices)) : null;
  } catch {
    return null;
  }
}

/** Whether two programs do different things, by more than their figures are written in. */
function differ(a: Interpreted, b: Interpreted): boolean {
  const far = (x: number, y: number, within: number) =>
    x !== y && !(Math.abs(x - y) <= within) && !(x !== x && y !== y);
  const wayFar = (p: Interpreted["wayBehind"], q: Interpreted["wayBehind"]) =>
    far(p.lengthMm, q.lengthMm, 0.05) ||
    far(p.lowestMm, q.lowestMm, 0.02) ||
    far(p.highestMm, q.highestMm, 0.02) ||
    far(p.seconds, q.seconds, 0.01 * Math.max(p.seconds, q.seconds) + 0.002) ||
    far(p.backMm, q.backMm, 0.01) ||
    far(p.forthMm, q.forthMm, 0.01);
  if (a.beads.length !== b.beads.length) return true;
  const end = ({ x, y, z, nozzleC, bedC, fans, tool }: Interpreted["end"]) =>
    JSON.stringify([x, y, z, bedC, tool].map((one) => Math.round(one * 20))) + JSON.stringify([nozzleC, fans]);
  if (end(a.end) !== end(b.end) || wayFar(a.wayBehind, b.wayBehind)) return true;
  return a.beads.some((one, i) => {
    const other = b.beads[i];
    return (
      [...one.from, ...one.to].some((mm, k) => far(mm, [...other.from, ...other.to][k], 0.01)) ||
      far(one.filamentMm * one.flowPercent, other.filamentMm * other.flowPercent, 0.3 + 0.01 * one.filamentMm * 100) ||
      far(one.feedMmMin, other.feedMmMin, 0.01 * one.feedMmMin + 2) ||
      one.tool !== other.tool ||
      far(one.nozzleC, other.nozzleC, 0.5) ||
      far(one.fan, other.fan, 1) ||
      far(one.accelerationMmS2, other.accelerationMmS2, 1) ||
      far(one.advanceS, other.advanceS, 1e-4) ||
      wayFar(one.way, other.way)
    );
  });
}

/** What the interpreter does not know: arcs, valves. */
const isJudged = ({ file }: Right) => !/^G[23] |^M12[67]/m.test(file.text);

test(`of ${RIGHT} right edits none is called wrong`, () => {
  const wrong: string[] = [];
  let seen = 0;
  for (const right of rightEdits(SEED)) {
    if (seen++ >= RIGHT) break;
    const said = prove(right, right.after);
    if (said.length > 0) wrong.push(`${right.name} on ${right.file.name} ${JSON.stringify(right.edit)}: ${said[0]}`);
  }
  expect(wrong).toEqual([]);
});

test(`of ${FAULTS} planted faults 97 of 100 at least are found`, () => {
  const roll = dice(SEED + 6);
  const missed: string[] = [];
  let planted = 0;
  for (const right of rightEdits(SEED + 1)) {
    if (planted >= FAULTS) break;
    if (!isJudged(right)) continue;
    const end = right.file.text.includes("\r\n") ? "\r\n" : "\n";
    const lines = right.after.split(end);
    const own = linesOfTheEdit(right.file.text.split(end), lines).filter((at) => /^[GMT]/.test(lines[at]));
    const fanPerTool = right.file.printer.fanPerTool && right.file.printer.tools > 1;
    const meant = interpret(right.after, { fanPerTool });
    for (let tries = 0; tries < 12; tries++) {
      const kinds = Object.entries(faults);
      const [what, fault] = roll(8) === 0 ? (["one layer off", null] as const) : kinds[roll(kinds.length)];
      // Mostly in what the edit wrote itself, now and then anywhere.
      const at = own.length > 0 && roll(5) > 0 ? own[roll(own.length)] : roll(lines.length);
      const spoiled = fault ? (fault(lines, at, roll)?.join(end) ?? null) : oneLayerOff(right, roll);
      if (spoiled === null || spoiled === right.after || !differ(meant, interpret(spoiled, { fanPerTool }))) continue;
      planted++;
      if (prove(right, spoiled).length === 0) {
        missed.push(`${what} (${lines[at]}) in ${right.name} on ${right.file.name} ${JSON.stringify(right.edit)}`);
      }
      break;
    }
  }
  process.stdout.write(`planted faults: ${planted - missed.length} of ${planted} found\n`);
  if (process.env.SHOW_MISSED) process.stdout.write(`${missed.join("\n")}\n`);
  expect(missed.length).toBeLessThanOrEqual(0.03 * FAULTS);
});
