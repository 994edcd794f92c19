"use client";
import type { Item } from "@/core/sheets/sheet";
import { Choice } from "../common/choice";
import { rowKinds } from "./row-kinds";

const groups: [string, Item["kind"][]][] = [
  ["strokes", ["circle", "line", "rectangle", "polygon", "arc", "curve", "climb", "word"]],
  ["round others", ["repeat", "group"]],
  ["between strokes", ["travel", "dwell", "lines"]],
];
const options = groups.flatMap(([group, kinds]) =>
  kinds.map((value) => ({ value, label: rowKinds[value].label, group })),
);

/** A new row of any kind. */
export function NewRow({ label, onNew }: { label: string; onNew(row: Item): void }) {
  return (
    <Choice
      label={label}
      small
      value={null}
      hint="+ lay …"
      options={options}
      onChange={(kind) => onNew(rowKinds[kind].fresh())}
    />
  );
}
