"use client";
import { displayParts, onScreen } from "@/core/edits/display";
import { Choice } from "../../common/choice";
import { TextField } from "../../common/text-field";
import type { Sentence } from "./sentence";

export const displaySentence: Sentence<"display"> = {
  begin: "The screen",
  words: "screen message text progress layer number M117 M73",
  short: () => "display",
  fresh: () => ({ kind: "display", text: "{{layer}}/{{layers}} {{left}}", countsFrom: 1 }),
  blanks: ({ edit, report, printer, onChange }) => (
    <>
      The screen shows
      <TextField
        aria-label="Text on the screen"
        value={edit.text}
        maxLength={200}
        onChange={(text) => onChange({ ...edit, text })}
      />
      <Choice
        label="Layers are counted"
        small
        value={edit.countsFrom}
        options={[
          { value: 1, label: "layers counted from 1" },
          { value: 0, label: "layers counted from 0" },
        ]}
        onChange={(countsFrom) => onChange({ ...edit, countsFrom: countsFrom as 0 | 1 })}
      />
      <label>
        <input
          type="checkbox"
          checked={edit.progress ?? false}
          onChange={({ target }) => onChange({ ...edit, progress: target.checked || undefined })}
        />{" "}
        and how far it is
      </label>
      <span className="dim">
        {printer && `On ${printer.name}: “${onScreen(sample(edit.text, report.layers.length), printer)}”. `}
        Parts: {displayParts.map((part) => `{{${part}}}`).join(" ")}
      </span>
    </>
  ),
};

/** The text with made-up figures, as long as real ones. */
function sample(text: string, layers: number): string {
  const known: Record<string, string> = {
    file: "tower",
    layer: "12",
    layers: String(layers),
    height: "2.4",
    left: "1 h 5 min",
    percent: "42",
    nozzle: "215",
    fan: "40",
  };
  return text.replace(/\{\{\s*([^}]*?)\s*\}\}/g, (all, part: string) => known[part] ?? all);
}
