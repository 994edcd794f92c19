"use client";
import { Choice } from "../../common/choice";
import { NumberField } from "../../common/number-field";
import type { Sentence } from "./sentence";

const axes = ["x", "y", "z"] as const;

export const moveSentence: Sentence<"move"> = {
  begin: "Where it stands",
  words: "shift centre middle offset place bed",
  short: ({ centre }) => (centre ? "to the middle" : "moved"),
  fresh: () => ({ kind: "move", centre: true }),
  blanks: ({ edit, onChange }) => (
    <>
      The print is moved
      <Choice
        label="Where the print is moved"
        small
        value={edit.centre ? "centre" : "by"}
        options={[
          { value: "centre", label: "to the middle of the bed" },
          { value: "by", label: "by" },
        ]}
        onChange={(way) => {
          const { kind, off } = edit;
          const kept = off ? { off } : {};
          onChange(way === "centre" ? { kind, centre: true, ...kept } : { kind, byMm: { x: 0, y: 0, z: 0 }, ...kept });
        }}
      />
      {edit.byMm &&
        axes.map((axis) => (
          <NumberField
            key={axis}
            label={`By ${axis.toUpperCase()}`}
            hideLabel={false}
            value={edit.byMm![axis]}
            unit="mm"
            low={-1000}
            high={1000}
            decimals={3}
            width={56}
            onChange={(mm) => onChange({ ...edit, byMm: { ...edit.byMm!, [axis]: mm } })}
          />
        ))}
    </>
  ),
};
