"use client";
import type { Setting } from "@/core/settings/setting";
import { NumberField } from "./number-field";

/** Even steps: the first value, the step, and how many. */
export interface Fill {
  start: number;
  step: number;
  count: number;
}

/** The fields that make even steps of a setting's values. */
export function FillFields(props: {
  setting: Setting;
  fill: Fill;
  labels: { start: string; step: string; count: string };
  onChange(fill: Fill): void;
}) {
  const { setting, fill, labels, onChange } = props;
  return (
    <>
      <NumberField
        hideLabel={false}
        label={labels.start}
        value={fill.start}
        unit={setting.unit}
        low={setting.lowest}
        high={setting.highest}
        step={setting.step}
        onChange={(start) => onChange({ ...fill, start })}
      />
      <NumberField
        hideLabel={false}
        label={labels.step}
        value={fill.step}
        unit={setting.unit}
        low={-setting.highest}
        high={setting.highest}
        onChange={(step) => onChange({ ...fill, step })}
      />
      <NumberField
        hideLabel={false}
        label={labels.count}
        value={fill.count}
        unit=""
        low={1}
        high={200}
        decimals={0}
        onChange={(count) => onChange({ ...fill, count: Math.round(count) })}
      />
    </>
  );
}
