"use client";
import { NumberField } from "../../common/number-field";
import { TextField } from "../../common/text-field";
import type { Sentence } from "./sentence";

const parkAxes = ["x", "y"] as const;

export const pauseSentence: Sentence<"pause"> = {
  begin: "Stop at a height",
  words: "pause stop park insert nut colour change filament M0",
  short: () => "pause",
  fresh: ({ layers }) => ({
    kind: "pause",
    at: { heightMm: Math.round((layers[layers.length - 1].zMm / 2) * 10) / 10 },
    park: { x: 10, y: 10, liftMm: 10 },
    message: "Go on when ready",
    beep: true,
  }),
  blanks: ({ edit, report, onChange }) => (
    <>
      Stop before the layer above
      <NumberField
        label="Height"
        value={"heightMm" in edit.at ? edit.at.heightMm : report.layers[edit.at.layer - edit.at.countsFrom]?.zMm}
        unit="mm"
        low={0}
        high={2000}
        decimals={2}
        width={56}
        onChange={(heightMm) => onChange({ ...edit, at: { heightMm } })}
      />
      {edit.park && (
        <>
          parked at
          {parkAxes.map((axis) => (
            <NumberField
              key={axis}
              label={`Park at ${axis.toUpperCase()}`}
              value={edit.park![axis]}
              unit={`mm ${axis.toUpperCase()}`}
              low={-1000}
              high={1000}
              decimals={1}
              width={52}
              onChange={(mm) => onChange({ ...edit, park: { ...edit.park!, [axis]: mm } })}
            />
          ))}
        </>
      )}
      saying
      <TextField
        aria-label="Text on the screen"
        value={edit.message ?? ""}
        maxLength={60}
        onChange={(message) => onChange({ ...edit, message })}
      />
      <label>
        <input
          type="checkbox"
          checked={edit.beep}
          onChange={({ target }) => onChange({ ...edit, beep: target.checked })}
        />{" "}
        with a beep
      </label>
    </>
  ),
};
