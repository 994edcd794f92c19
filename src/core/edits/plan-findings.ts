/** What gets in a plan's way on a file. */
import { Finding } from "../findings/finding";
import { Place } from "../heightplan/change";
import { SettingKey, settingFor } from "../settings";
import { plainNumber } from "../units";
import { concerning } from "./edit";
import { PlanLines } from "./plan-lines";

/** Changes of which nothing is printed. */
export function beyondPiece({ context, changes, order, numbers, firstLayers }: PlanLines): Finding[] {
  const { layers } = context.file.report;
  const unprinted = order.filter((index) => firstLayers[index] >= layers.length);
  if (unprinted.length === 0) return [];
  const end = `the last layer (${layers.length} layers, ${plainNumber(layers.at(-1)?.zMm ?? 0)} mm)`;
  const places = unprinted.map((index) => sayPlace(changes[index].from));
  return [
    {
      check: "beyond-piece",
      severity: "warn",
      where: `change${unprinted.length > 1 ? "s" : ""} ${unprinted.map((index) => numbers.get(index)).join(", ")}`,
      message:
        unprinted.length === 1
          ? `This has no effect: ${places[0]} is above ${end}, or its end is below its start.`
          : `These have no effect: ${places.slice(0, 4).join(", ")}${places.length > 4 ? " …" : ""} are above ${end}, or their ends are below their starts.`,
    },
  ];
}

/** Changes of the file that would undo the plan: those of its own, and those that an earlier plan put in. */
export function foreignChanges({ context }: PlanLines, who: Int32Array, key: SettingKey, tool: number): Finding[] {
  const { report } = context.file;
  const last = report.layers.length - 1;
  const concerns = concerning(report, key, tool);
  const undoing = report.changes.filter((change) => {
    if (change.layer < 0 || change.layer > last || !concerns(change)) return false;
    if (who[change.layer] < 0) return false;
    // Before the place where the layer opens it is the plan that has the last word, if it says anything there.
    const opensBehind = change.line < report.layers[change.layer].insertLine - 1;
    return !opensBehind || (change.layer > 0 && who[change.layer] === who[change.layer - 1]);
  });
  return [true, false].flatMap((ours) => {
    const found = undoing.filter((change) => change.ours === ours);
    if (found.length === 0) return [];
    const { short, perTool } = settingFor(key);
    const places = found.length === 1 ? "in one place" : `in ${found.length} places`;
    const ofTool = perTool && report.filament.length > 1 ? { tool } : {};
    return [
      {
        check: ours ? "earlier-plan" : "foreign-change",
        severity: "warn" as const,
        where: `line ${found[0].line + 1}`,
        message: ours
          ? `An earlier plan sets the ${short} ${places} and overrides this one there.`
          : `The file sets the ${short} itself ${places}, which overrides your plan there.`,
        mend: ours
          ? { label: "Lift the earlier plan out", edit: { kind: "lift-out" as const, what: "cuchara" as const } }
          : {
              label: "Take those lines out",
              edit: { kind: "lift-out" as const, what: "foreign" as const, settings: [key], ...ofTool },
            },
      },
    ];
  });
}

/** `12.4 mm`, or `layer 20 counted from 1`. */
export function sayPlace(place: Place): string {
  return "heightMm" in place
    ? `${plainNumber(place.heightMm)} mm`
    : `layer ${place.layer} counted from ${place.countsFrom}`;
}
