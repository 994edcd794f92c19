"use client";
import { NumberField } from "../../common/number-field";
import { TextField } from "../../common/text-field";
import type { Sentence } from "./sentence";

export const pauseSentence: Sentence<"pause"> = {
  begin: "Stop at a height",
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
          parked at X
          <NumberField
            label="Park at X"
            value={edit.park.x}
            unit="mm"
            low={-1000}
            high={1000}
            decimals={1}
            width={52}
            onChange={(x) => onChange({ ...edit, park: { ...edit.park!, x } })}
          />
          Y
          <NumberField
            label="Park at Y"
            value={edit.park.y}
            unit="mm"
            low={-1000}
            high={1000}
            decimals={1}
            width={52}
            onChange={(y) => onChange({ ...edit, park: { ...edit.park!, y } })}
          />
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
