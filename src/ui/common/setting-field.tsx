"use client";
import { SettingKey, settingFor } from "@/core/settings";
import { NumberField } from "./number-field";

interface Props {
  settingKey: SettingKey;
  /** What it is called here, if not by the setting's own name. */
  label?: string;
  value: number;
  width?: number;
  onChange(value: number): void;
}

/** A value of a setting, in its unit and range. */
export function SettingField({ settingKey, label, value, width, onChange }: Props) {
  const setting = settingFor(settingKey);
  return (
    <NumberField
      label={label ?? setting.label}
      value={value}
      unit={setting.unit}
      low={setting.lowest}
      high={setting.highest}
      step={setting.step}
      decimals={setting.decimals}
      width={width}
      onChange={onChange}
    />
  );
}
