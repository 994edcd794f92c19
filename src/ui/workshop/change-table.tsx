"use client";
/** A plan for an opened file as a table: from where, until where, which setting, which value. */
import { Button, Segmented, Select } from "antd";
import { useState } from "react";
import type { Change } from "@/core/heightplan/change";
import { SettingKey, settingFor, settingKeys } from "@/core/settings";
import { plainNumber } from "@/core/units";
import type { BriefTrial } from "@/core/trials/brief";
import { changesOfTrial } from "@/core/trials/changes-of-trial";
import type { Trial } from "@/core/trials/trial";
import { api } from "../common/api";
import { useTell } from "../common/talk";
import { Fill, FillFields } from "../common/fill-fields";
import { LinesDialog } from "../common/lines-dialog";
import { NumberField } from "../common/number-field";
import { SettingField } from "../common/setting-field";
import { convertPlace, placeFigure, placeFrom, PlaceMode, placeModes, sayOtherCounts } from "./places";

interface Props {
  changes: Change[];
  layers: readonly { zMm: number; heightMm: number }[];
  mode: PlaceMode;
  /** Tools of the printer. */
  tools: number;
  trials: BriefTrial[];
  onMode(mode: PlaceMode): void;
  onChange(changes: Change[]): void;
}

/** The settings of a change besides the one that is shown, in words. */
function sayOthers({ settings }: Change, shown: SettingKey): string {
  return settingKeys
    .filter((key) => key !== shown && settings[key] !== undefined)
    .map(
      (key) =>
        `${settingFor(key).short} ${plainNumber(settings[key]!, settingFor(key).decimals)} ${settingFor(key).unit}`,
    )
    .join(", ");
}

export function ChangeTable({ changes, layers, mode, tools, trials, onMode, onChange }: Props) {
  const tell = useTell();
  const [linesOf, setLinesOf] = useState<number | null>(null);
  const top = layers[layers.length - 1]?.zMm ?? 0;
  const unit = mode === "height" ? "mm" : "";
  const high = mode === "height" ? 2000 : 1_000_000;
  const set = (index: number, change: Partial<Change>) =>
    onChange(changes.map((one, i) => (i === index ? { ...one, ...change } : one)));
  const add = () => {
    const last = changes[changes.length - 1];
    const key = (Object.keys(last?.settings ?? { nozzleTemperature: 0 }) as SettingKey[])[0];
    const { step, lowest, highest } = settingFor(key);
    const before = changes.length > 1 ? placeFigure(convertPlace(changes[changes.length - 2].from, mode, layers)) : 0;
    const at = last ? placeFigure(convertPlace(last.from, mode, layers)) : 0;
    const stride = at - before || (mode === "height" ? 10 : 50);
    const value = last ? (last.settings[key] ?? 0) - step : 210;
    onChange([
      ...changes,
      {
        from: placeFrom(Math.max(0, at + stride), mode),
        settings: { [key]: Math.min(highest, Math.max(lowest, value)) },
      },
    ]);
  };
  return (
    <div>
      <div style={{ display: "flex", gap: 10, flexWrap: "wrap", alignItems: "center", margin: "4px 0 10px" }}>
        <Segmented aria-label="Count by" options={placeModes} value={mode} onChange={(next) => onMode(next)} />
        <Button onClick={add}>Add a change</Button>
        <FillButton mode={mode} onFill={onChange} />
        <Select
          aria-label="Take a trial's plan"
          style={{ minWidth: 190 }}
          placeholder="Take a trial's plan …"
          value={null}
          options={trials.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={(id: number | null) => {
            if (id === null) return;
            void api
              .get<Trial>(`/trials/${id}`)
              .then((trial) => {
                const laid = changesOfTrial(trial);
                onChange(laid.map((change) => ({ ...change, from: convertPlace(change.from, mode, layers) })));
              })
              .catch(tell.error);
          }}
        />
      </div>
      {changes.length === 0 ? (
        <div className="empty">
          <p>
            No change yet. The piece is {plainNumber(top)} mm high and has {layers.length} layers.
          </p>
          <p>Take a trial’s plan, fill in even steps, or add changes one by one.</p>
        </div>
      ) : (
        <div className="card" style={{ padding: 0, overflowX: "auto" }}>
          <table className="grid-table">
            <thead>
              <tr>
                <th>From</th>
                <th>Until</th>
                <th>Setting</th>
                <th>Value</th>
                {tools > 1 && <th>Tool</th>}
                <th>Own lines</th>
                <th>
                  <span className="visually-hidden">Remove</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {changes.map((change, index) => {
                const key = (Object.keys(change.settings) as SettingKey[])[0] ?? "nozzleTemperature";
                return (
                  <tr key={index}>
                    <td>
                      <NumberField
                        label={`Change ${index + 1} from`}
                        value={placeFigure(change.from)}
                        unit={unit}
                        low={0}
                        high={high}
                        decimals={mode === "height" ? 3 : 0}
                        onChange={(figure) => set(index, { from: placeFrom(figure, mode) })}
                      />
                      <div className="dim" style={{ fontSize: 12 }}>
                        {sayOtherCounts(change.from, layers)}
                      </div>
                    </td>
                    <td>
                      {change.until ? (
                        <>
                          <NumberField
                            label={`Change ${index + 1} until`}
                            value={placeFigure(change.until)}
                            unit={unit}
                            low={0}
                            high={high}
                            decimals={mode === "height" ? 3 : 0}
                            onChange={(figure) => set(index, { until: placeFrom(figure, mode) })}
                          />{" "}
                          <button className="link-button" onClick={() => set(index, { until: undefined })}>
                            to the next
                          </button>
                        </>
                      ) : (
                        <button
                          className="link-button"
                          onClick={() =>
                            set(index, {
                              until: placeFrom(placeFigure(change.from) + (mode === "height" ? 5 : 25), mode),
                            })
                          }
                        >
                          the next change
                        </button>
                      )}
                    </td>
                    <td>
                      <Select
                        aria-label={`Setting of change ${index + 1}`}
                        style={{ width: 170 }}
                        value={key}
                        options={settingKeys.map((one) => ({ value: one, label: settingFor(one).label }))}
                        onChange={(next) => {
                          const { lowest, highest } = settingFor(next);
                          const { [key]: value, ...others } = change.settings;
                          set(index, {
                            settings: { ...others, [next]: Math.min(highest, Math.max(lowest, value ?? 0)) },
                          });
                        }}
                      />
                    </td>
                    <td>
                      <SettingField
                        settingKey={key}
                        label={`Value of change ${index + 1}`}
                        value={change.settings[key] ?? 0}
                        onChange={(value) => set(index, { settings: { ...change.settings, [key]: value } })}
                      />
                      {Object.keys(change.settings).length > 1 && (
                        <div className="dim" style={{ fontSize: 12 }}>
                          and {sayOthers(change, key)}
                        </div>
                      )}
                    </td>
                    {tools > 1 && (
                      <td>
                        <Select
                          aria-label={`Tool of change ${index + 1}`}
                          value={change.tool ?? 0}
                          options={Array.from({ length: tools }, (_, tool) => ({ value: tool, label: String(tool) }))}
                          onChange={(tool) => set(index, { tool })}
                        />
                      </td>
                    )}
                    <td>
                      <button
                        className="link-button"
                        aria-label={`${change.lines ? `${change.lines.length} …` : "Add …"} own lines of change ${index + 1}`}
                        onClick={() => setLinesOf(index)}
                      >
                        {change.lines ? `${change.lines.length} …` : "Add …"}
                      </button>
                    </td>
                    <td>
                      <button
                        className="link-button"
                        aria-label={`Remove change ${index + 1}`}
                        onClick={() => onChange(changes.filter((_, i) => i !== index))}
                      >
                        Remove
                      </button>
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      )}
      {linesOf !== null && changes[linesOf] && (
        <LinesDialog
          title={`Own lines of change ${linesOf + 1}`}
          lines={changes[linesOf].lines ?? []}
          onClose={() => setLinesOf(null)}
          onTake={(lines) => set(linesOf, { lines: lines.length > 0 ? lines : undefined })}
        />
      )}
    </div>
  );
}

/** Even steps: from where, how far apart, first value, step, count. */
function FillButton({ mode, onFill }: { mode: PlaceMode; onFill(changes: Change[]): void }) {
  const [open, setOpen] = useState(false);
  const [from, setFrom] = useState(1.5);
  const [every, setEvery] = useState(10);
  const [fill, setFill] = useState<Fill>({ start: 220, step: -5, count: 5 });
  const [key, setKey] = useState<SettingKey>("nozzleTemperature");
  const setting = settingFor(key);
  const unit = mode === "height" ? "mm" : "layers";
  if (!open) return <Button onClick={() => setOpen(true)}>Fill in even steps …</Button>;
  return (
    <div className="card" style={{ display: "flex", gap: 12, flexWrap: "wrap", alignItems: "flex-end", width: "100%" }}>
      <label>
        <span className="dim">Setting</span>
        <br />
        <Select
          aria-label="Setting to fill"
          style={{ width: 170 }}
          value={key}
          options={settingKeys.map((one) => ({ value: one, label: settingFor(one).label }))}
          onChange={setKey}
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
