"use client";
/** What a kind of trial leaves to choose, one field an option. */
import { Toggle } from "../common/toggle";
import { Choice } from "../common/choice";
import type { Printer } from "@/core/shelf/printer";
import { Option, optionsOf, OptionValues } from "@/core/options/option";
import { NumberField } from "../common/number-field";
import styles from "./option-fields.module.css";

interface Props {
  options: readonly Option[];
  values: OptionValues;
  printer: Printer;
  onChange(key: string, value: number | string | boolean, remakes: boolean): void;
}

export function OptionFields({ options, values, printer, onChange }: Props) {
  const all = optionsOf(options, values, printer);
  return (
    <dl className={styles.options}>
      {options.map((option) => (
        <div key={option.key}>
          <dt>{option.label}</dt>
          <dd>
            <OptionField
              option={option}
              value={all[option.key]}
              onChange={(value) => onChange(option.key, value, option.remakes ?? false)}
            />
          </dd>
        </div>
      ))}
    </dl>
  );
}

function OptionField(props: {
  option: Option;
  value: number | string | boolean;
  onChange(value: number | string | boolean): void;
}) {
  const { option, value, onChange } = props;
  if (option.kind === "switch") {
    return <Toggle label={option.label} checked={value === true} onChange={onChange} />;
  }
  if (option.kind === "choice") {
    return (
      <Choice
        label={option.label}
        small
        className={styles.choice}
        value={String(value)}
        options={option.choices}
        onChange={onChange}
      />
    );
  }
  return (
    <NumberField
      label={option.label}
      value={Number(value)}
      unit={option.unit}
      low={option.low}
      high={option.high}
      step={option.step}
      decimals={option.decimals}
      width={46}
      onChange={onChange}
    />
  );
}
