"use client";
/** Values that stand side by side in every layer, as one line of text that is checked as it is typed. */
import { Input } from "antd";
import { useEffect, useState } from "react";
import { MOST_SIDE_BY_SIDE, SideBySide } from "@/core/heightplan/plan";
import { settingFor } from "@/core/settings";
import { plainNumber } from "@/core/units";
import { parseFigure } from "../common/figure";

/** The values in the text, or what is wrong with it. */
export function parseValues(text: string, { setting }: SideBySide): { values: number[] } | { wrong: string } {
  const { lowest, highest, unit } = settingFor(setting);
  const parts = text.split(/[\s;]+|,(?=\s)|,(?!\d)/).filter((part) => part !== "");
  if (parts.length === 0) return { wrong: "Give at least one value" };
  if (parts.length > MOST_SIDE_BY_SIDE) return { wrong: `At most ${MOST_SIDE_BY_SIDE} values fit side by side` };
  const values: number[] = [];
  for (const part of parts) {
    const parsed = parseFigure(part, lowest, highest, unit);
    if ("wrong" in parsed) return { wrong: `${part}: ${parsed.wrong}` };
    values.push(parsed.value);
  }
  return { values };
}

export function SideBySideField({ value, onChange }: { value: SideBySide; onChange(value: SideBySide): void }) {
  const { label, unit, decimals } = settingFor(value.setting);
  const said = value.values.map((one) => plainNumber(one, decimals)).join("  ");
  const [text, setText] = useState(said);
  const [editing, setEditing] = useState(false);
  useEffect(() => {
    if (!editing) setText(said);
  }, [said, editing]);
  const parsed = parseValues(text, value);
  const wrong = "wrong" in parsed ? parsed.wrong : null;
  return (
    <section className="card above" aria-label="Side by side">
      <h2>
        Side by side: {label.toLowerCase()}, {unit}
      </h2>
      <Input
        aria-label={`${label} side by side, ${unit}`}
        className="mono"
        status={wrong ? "error" : undefined}
        value={text}
        onFocus={() => setEditing(true)}
        onBlur={() => setEditing(false)}
        onChange={(event) => {
          setText(event.target.value);
          const next = parseValues(event.target.value, value);
          if ("values" in next) onChange({ ...value, values: next.values });
        }}
      />
      {wrong ? (
        <p className="field-error" role="alert">
          {wrong}
        </p>
      ) : (
        <p className="dim">{value.values.length} values, each on its own spot in every layer, in this order.</p>
      )}
    </section>
  );
}
