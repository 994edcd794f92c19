/**
 * The proof of a stack of edits: each is held against the file as it found it, bead by bead. What it was asked for is there, and nothing
 * else differs.
 */
import { comparePlan, Mismatch, settingsByLayer } from "../heightplan/proof";
import { Result, succeed } from "../result";
import type { Printer } from "../shelf/printer";
import { Compared, compareTraces, Difference, untouched } from "../trace/compare";
import type { Field } from "../trace/fields";
import { AppliedEdits, applyEdits, Edit, EditableFile, kindOf } from ".";
import type { SeenFile } from "./edit";

export interface Proof {
  /** Layers that do not command what the stack wants of a setting. */
  mismatches: Mismatch[];
  /** All edits in one, and the file behind the last of them. */
  splices: AppliedEdits["splices"];
  after: SeenFile;
  /** Sentences for what is not as it must be. */
  wrong: string[];
  /** Those of them that a bead shows, with their places: the lines are those of the file behind the edit. */
  differences: (Difference & { edit: number })[];
  /** Sentences for what was looked at and is so. */
  passed: string[];
}

/** What nobody asked to be changed, in sentences. */
const kept: { fields: Field[]; sentence: string }[] = [
  { fields: ["place", "layer"], sentence: "Material is laid where it was." },
  { fields: ["filament"], sentence: "As much filament is laid as before." },
  { fields: ["feed"], sentence: "It is laid as fast as before." },
  { fields: ["heat", "bed"], sentence: "Nozzle and bed are as hot as before." },
  { fields: ["fan"], sentence: "The fan blows as before." },
  { fields: ["travel", "drawn", "balance"], sentence: "Travel and retraction are as before." },
  {
    fields: ["acceleration", "cornering", "advance"],
    sentence: "Acceleration, cornering and pressure advance are as before.",
  },
];

/** Holds a file against the one that an edit found. @param name the file's */
export function proveOne(
  edit: Edit,
  before: SeenFile,
  after: SeenFile,
  printer: Printer,
  name?: string,
): Compared & { wrong: string[] } {
  const kind = kindOf(edit);
  const context = { file: before, printer, name };
  const compared = compareTraces(before.tables(), after.tables(), kind.asks(edit, context));
  const isWhole = !(kind.placesAlone && edit.skip);
  const wrong = kind.proves && isWhole ? kind.proves(edit, before, after, context) : [];
  return {
    ...compared,
    wrong: [...compared.differences.map(({ message }) => message), ...wrong, ...unclear(before, after)],
  };
}

/** A file that said without doubt how its filament counts must go on saying so. */
function unclear({ report: before }: SeenFile, { report: after }: SeenFile): string[] {
  if (before.assumedE || !after.assumedE) return [];
  return [`Line ${after.assumedE.line + 1} leaves it open whether filament counts from where it stands or from zero.`];
}

/** How far it was looked: an edit that may make anything of its lines is held to the lines themselves from there on. */
const sayLooked = (beads: number, isWhole: boolean): string =>
  isWhole
    ? `All ${beads.toLocaleString("en")} lines of material are as they should be.`
    : `The first ${beads.toLocaleString("en")} lines of material are as they should be; from there on the lines that were asked for are there, and what comes of them was not looked at.`;

/**
 * Applies a stack and proves it; refused as applying it is. @param name the file's
 *
 * @example
 * const file = editable("M109 S210\nM83\nM106 S255\nG1 X9 Y9 Z0.2 E1 F900\n");
 * proveEdits([{ kind: "fan", act: "cap", percent: 50 }], file, printer).value.wrong; // []
 */
export function proveEdits(edits: readonly Edit[], file: EditableFile, printer: Printer, name?: string): Result<Proof> {
  const [wrong, passed]: [string[], string[]] = [[], []];
  const differences: Proof["differences"] = [];
  const touched = new Set<Field>();
  let beads = Infinity;
  let isWhole = true;
  let after = file.original;
  const isAlone = edits.filter(({ off }) => !off).length === 1;
  const applied = applyEdits(edits, file, printer, name, (edit, before, seeAfter) => {
    after = seeAfter();
    const proved = proveOne(edit, before, after, printer, name);
    // Of several edits each is named by what it is called.
    const said = (sentence: string) => (isAlone ? sentence : `${kindOf(edit).label}: ${sentence}`);
    wrong.push(...proved.wrong.map(said));
    differences.push(
      ...proved.differences.map((one) => ({ ...one, message: said(one.message), edit: edits.indexOf(edit) })),
    );
    const alone = new Set(untouched(proved));
    for (const { fields } of kept) for (const field of fields) if (!alone.has(field)) touched.add(field);
    for (const { field } of proved.differences) touched.add(field);
    beads = Math.min(beads, proved.beads);
    isWhole &&= proved.isWhole;
  });
  if (!applied.ok) return applied;
  const { planned, splices } = applied.value;
  const tables = after.tables();
  const mismatches = planned.flatMap(({ tool, planned: ofTool }) =>
    comparePlan(tables.layers, settingsByLayer(tables, tool).byLayer, ofTool, printer),
  );
  if (mismatches.length === 0 && planned.length > 0) passed.push("Every layer commands what the plan says.");
  // A line of the file's own can undo what an edit put in: then not all is as it should be.
  const isRight = wrong.length === 0 && mismatches.length === 0;
  if (isRight && beads > 0 && beads < Infinity) passed.push(sayLooked(beads, isWhole));
  for (const { fields, sentence } of kept) if (!fields.some((field) => touched.has(field))) passed.push(sentence);
  return succeed({ mismatches, wrong, differences, passed, splices, after });
}
