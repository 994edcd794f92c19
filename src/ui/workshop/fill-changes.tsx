"use client";
import { Button } from "antd";
import { useState } from "react";
import type { Change } from "@/core/heightplan/change";
import { SettingKey, settingFor, settingKeys } from "@/core/settings";
import { Choice } from "../common/choice";
import { Fill, FillFields } from "../common/fill-fields";
import { NumberField } from "../common/number-field";
import { placeFrom, PlaceMode } from "./places";

/** Even steps: from where, how far apart, first value, step, count. */
export function FillChanges({ mode, onFill }: { mode: PlaceMode; onFill(changes: Change[]): void }) {
  const [open, setOpen] = useState(false);
  const [from, setFrom] = useState(1.5);
  const [every, setEvery] = useState(10);
  const [fill, setFill] = useState<Fill>({ start: 220, step: -5, count: 5 });
  const [key, setKey] = useState<SettingKey>("nozzleTemperature");
  const setting = settingFor(key);
  const unit = mode === "height" ? "mm" : "layers";
  if (!open) return <Button onClick={() => setOpen(true)}>Fill in even steps …</Button>;
  return (
    <div className="card line bottom whole">
      <label>
        <span className="dim">Setting</span>
        <br />
        <Choice
          label="Setting to fill"
          className="picker"
          value={key}
          options={settingKeys.map((one) => ({ value: one, label: settingFor(one).label }))}
          onChange={(next) => setKey(next)}
        />
      </label>
      <NumberField
        hideLabel={false}
        label="From"
        value={from}
        unit={mode === "height" ? "mm" : ""}
        low={0}
        high={2000}
        onChange={setFrom}
      />
      <NumberField
        hideLabel={false}
        label="One every"
        value={every}
        unit={unit}
        low={0.1}
        high={2000}
        onChange={setEvery}
      />
      <FillFields
        setting={setting}
        fill={fill}
        labels={{ start: "First value", step: "Step", count: "Count" }}
        onChange={setFill}
      />
      <Button
        type="primary"
        onClick={() => {
          onFill(
            Array.from({ length: fill.count }, (_, i) => ({
              from: placeFrom(from + i * every, mode),
              settings: { [key]: Math.min(setting.highest, Math.max(setting.lowest, fill.start + i * fill.step)) },
            })),
          );
          setOpen(false);
        }}
      >
        Make {fill.count} changes
      </Button>
      <Button onClick={() => setOpen(false)}>Cancel</Button>
    </div>
  );
}
