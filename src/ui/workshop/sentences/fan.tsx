"use client";
import type { FanEdit } from "@/core/edits/kinds/fan";
import { Choice } from "../../common/choice";
import { NumberField } from "../../common/number-field";
import { ScopeFields } from "./scope-fields";
import type { Sentence } from "./sentence";

const acts: { value: FanEdit["act"]; label: string }[] = [
  { value: "off", label: "is off" },
  { value: "scale", label: "is scaled to" },
  { value: "cap", label: "runs at most at" },
  { value: "floor", label: "runs at least at" },
];

export const fanSentence: Sentence<"fan"> = {
  begin: "The fan",
  words: "blower cooling off speed M106",
  short: ({ act, percent }) =>
    act === "off" ? "fan off" : `fan ${act === "scale" ? "×" : act === "cap" ? "≤" : "≥"} ${percent ?? ""} %`,
  fresh: () => ({ kind: "fan", act: "off", keepComments: true }),
  blanks: ({ edit, report, onChange }) => (
    <>
      The fan
      <Choice
        label="What the fan does"
        small
        value={edit.act}
        options={acts}
        onChange={(act) =>
          onChange({ ...edit, act: act as FanEdit["act"], percent: act === "off" ? undefined : (edit.percent ?? 50) })
        }
      />
      {edit.act !== "off" && (
        <NumberField
          label="Percent"
          value={edit.percent}
          unit="%"
          low={0}
          high={edit.act === "scale" ? 500 : 100}
          decimals={1}
          width={48}
          onChange={(percent) => onChange({ ...edit, percent })}
        />
      )}
      <ScopeFields
        scope={edit}
        report={report}
        onChange={(scope) => {
          const { kind, act, percent, fan, keepComments, off } = edit;
          onChange({ kind, act, percent, fan, keepComments, ...(off ? { off } : {}), ...scope });
        }}
      />
    </>
  ),
};
