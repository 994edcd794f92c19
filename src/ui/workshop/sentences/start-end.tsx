"use client";
import { Choice } from "../../common/choice";
import type { Sentence } from "./sentence";

const which = ["both", "start", "end"] as const;
type Which = (typeof which)[number];
const labels: Record<Which, string> = {
  both: "start and end lines become",
  start: "start lines become",
  end: "end lines become",
};

export const startEndSentence: Sentence<"start-end"> = {
  begin: "Start and end",
  words: "start end lines own template shut down heaters off begin",
  short: ({ start, end }) => (start && end ? "start, end" : start ? "start" : "end"),
  fresh: () => ({ kind: "start-end", start: false, end: true }),
  blanks: ({ edit, printer, onChange }) => (
    <>
      The file’s
      <Choice<Which>
        label="Which lines"
        small
        value={edit.start && edit.end ? "both" : edit.start ? "start" : "end"}
        options={which.map((value) => ({ value, label: labels[value] }))}
        onChange={(next) => onChange({ ...edit, start: next !== "end", end: next !== "start" })}
      />
      those of {printer?.name ?? "the printer"}.
      <span className="dim">What the print counts on (units, modes, filament, heats) is set again after them.</span>
    </>
  ),
};
