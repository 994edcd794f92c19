"use client";
import { displayParts, longestText, onScreen } from "@/core/edits/kinds/display";
import type { SavedPrinter } from "../../common/api";
import { Choice } from "../../common/choice";
import { TextField } from "../../common/text-field";
import type { Sentence } from "./sentence";

export const displaySentence: Sentence<"display"> = {
  begin: "The screen",
  words: "screen message text progress layer number M117 M73",
  short: () => "display",
  fresh: () => ({ kind: "display", text: "{{layer}}/{{layers}} {{left}}", countsFrom: 1 }),
  blanks: ({ edit, report, printer, fileName, onChange }) => (
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
        {printer && sayLongest(longestText(edit, report, fileName), printer)} Parts:{" "}
        {displayParts.map((part) => `{{${part}}}`).join(" ")}
      </span>
    </>
  ),
};

/** The longest line as the printer shows it, and what of it is not seen. */
function sayLongest(text: string, printer: SavedPrinter): string {
  const shown = onScreen(text, printer);
  const lost = text.trim().length - shown.length;
  const cut =
    lost > 0 ? ` The last ${lost} of its ${text.trim().length} characters are not shown: shorten the text.` : "";
  return `The longest on ${printer.name}: “${shown}”.${cut}`;
}
