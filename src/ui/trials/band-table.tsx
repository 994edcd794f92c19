"use client";
/** The bands as a table: edit, add, remove, fill, paste, export. Top band first, as on the piece. */
import { Button, Dropdown, Select } from "antd";
import { useState } from "react";
import {
  addBand,
  holdSetting,
  removeBand,
  setBandHeight,
  setLines,
  setValue,
  varySetting,
} from "@/core/heightplan/reshape";
import { HeightPlan, LOWEST_BAND_MM, ResolvedBand } from "@/core/heightplan/plan";
import { SettingKey, settingFor, settingKeys, SettingValues } from "@/core/settings";
import { plainNumber } from "@/core/units";
import { NumberField } from "../common/number-field";
import { SettingField } from "../common/setting-field";
import { LinesDialog } from "../common/lines-dialog";
import { PasteDialog } from "./paste-dialog";

interface Props {
  trialId: number;
  plan: HeightPlan;
  bands: ResolvedBand[];
  colours: string[];
  /** The settings that vary, the one the trial is about first. */
  varied: SettingKey[];
  /** What holds where nobody has said anything. */
  usualOf(key: SettingKey): number;
  /** What the trial holds fixed: where a setting starts from when it begins to vary. */
  fixed: SettingValues;
  cursorBand: number | undefined;
  onChange(change: (plan: HeightPlan) => HeightPlan): void;
  onFill(): void;
  /** Called before an export, so that what is exported is stored. */
  flush(): Promise<void>;
}

export function BandTable(props: Props) {
  const { trialId, plan, bands, colours, varied, fixed, usualOf, cursorBand, onChange, onFill, flush } = props;
  const [pasting, setPasting] = useState(false);
  const [linesOf, setLinesOf] = useState<number | null>(null);
  // What stands side by side cannot go up the height as well.
  const others = settingKeys.filter((key) => !varied.includes(key) && key !== plan.sideBySide?.setting);
  return (
    <div>
      <div style={{ display: "flex", gap: 8, flexWrap: "wrap", margin: "4px 0 10px" }}>
        {varied.length > 0 && (
          <>
            <Button onClick={() => onChange(addBand)}>Add a band on top</Button>
            <Button onClick={onFill}>Fill values …</Button>
            <Button onClick={() => setPasting(true)}>Paste a list …</Button>
          </>
        )}
        <Dropdown
          trigger={["click"]}
          menu={{
            items: [
              { key: "csv", label: "As CSV, for a spreadsheet" },
              { key: "json", label: "As JSON" },
            ],
            onClick: ({ key }) => void flush().then(() => location.assign(`/api/trials/${trialId}/plan?as=${key}`)),
          }}
        >
          <Button>Export …</Button>
        </Dropdown>
        <Select
          aria-label="Vary another setting"
          style={{ minWidth: 190 }}
          placeholder="Vary another setting …"
          value={null}
          options={others.map((key) => ({ value: key, label: settingFor(key).label }))}
          onChange={(key: SettingKey | null) =>
            key && onChange((now) => varySetting(now, key, fixed[key] ?? usualOf(key)))
          }
        />
      </div>
      <div className="card" style={{ padding: 0, overflowX: "auto" }}>
        <table className="grid-table">
          <thead>
            <tr>
              <th>Band</th>
              {varied.map((key) => (
                <th key={key}>
                  {settingFor(key).label}
                  {varied.length > 1 && (
                    <>
                      {" "}
                      <button
                        className="link-button"
                        aria-label={`Stop varying ${settingFor(key).label.toLowerCase()}`}
                        onClick={() => onChange((now) => holdSetting(now, key))}
                      >
                        stop
                      </button>
                    </>
                  )}
                </th>
              ))}
              <th>Height</th>
              <th>From – to, on layers</th>
              <th>Layers from 1</th>
              <th>Own lines</th>
              <th>
                <span className="visually-hidden">Remove</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {[...bands].reverse().map((band) => {
              const index = band.number - 1;
              return (
                <tr key={band.number} data-on={cursorBand === band.number}>
                  <td style={{ whiteSpace: "nowrap" }}>
                    <i className="swatch" style={{ background: colours[index] }} />
                    {band.number}
                  </td>
                  {varied.map((key) => (
                    <td key={key}>
                      <BandValue
                        usual={fixed[key] ?? usualOf(key)}
                        band={band}
                        settingKey={key}
                        onChange={(value) => onChange((now) => setValue(now, index, key, value))}
                      />
                    </td>
                  ))}
                  <td>
                    <NumberField
                      label={`Height of band ${band.number}`}
                      value={plan.bands[index].heightMm}
                      unit="mm"
                      low={LOWEST_BAND_MM}
                      high={500}
                      width={48}
                      onChange={(heightMm) => onChange((now) => setBandHeight(now, index, heightMm))}
                    />
                  </td>
                  <td className="mono">
                    {plainNumber(band.fromMm)} – {plainNumber(band.toMm)} mm
                    {Math.abs(band.fromMm - band.askedFromMm) > 1e-6 && (
                      <span className="dim"> (asked {plainNumber(band.askedFromMm)})</span>
                    )}
                  </td>
                  <td className="mono">
                    {band.lastLayer < band.firstLayer ? "none" : `${band.firstLayer + 1} – ${band.lastLayer + 1}`}
                  </td>
                  <td>
                    <button
                      className="link-button"
                      aria-label={`${band.lines ? `${band.lines.length} …` : "Add …"} own lines of band ${band.number}`}
                      onClick={() => setLinesOf(index)}
                    >
                      {band.lines ? `${band.lines.length} …` : "Add …"}
                    </button>
                  </td>
                  <td>
                    <button
                      className="link-button"
                      aria-label={`Remove band ${band.number}`}
                      disabled={plan.bands.length <= 1}
                      onClick={() => onChange((now) => removeBand(now, index))}
                    >
                      Remove
                    </button>
                  </td>
                </tr>
              );
            })}
            <tr>
              <td>Base</td>
              {varied.map((key, i) => (
                <td key={key} className="dim">
                  {i > 0 ? "" : key === "nozzleTemperature" || key === "bedTemperature" ? "like band 1" : "as usual"}
                </td>
              ))}
              <td>
                <NumberField
                  label="Height of the base"
                  value={plan.baseHeightMm}
                  unit="mm"
                  low={0}
                  high={50}
                  width={48}
                  onChange={(baseHeightMm) => onChange((now) => ({ ...now, baseHeightMm }))}
                />
              </td>
              <td className="mono">from the bed</td>
              <td />
              <td />
              <td />
            </tr>
          </tbody>
        </table>
      </div>
      <PasteDialog
        open={pasting}
        plan={plan}
        keys={varied}
        onClose={() => setPasting(false)}
        onTake={(next) => onChange(() => next)}
      />
      {linesOf !== null && (
        <LinesDialog
          title={`Own lines of band ${linesOf + 1}`}
          lines={plan.bands[linesOf]?.lines ?? []}
          onClose={() => setLinesOf(null)}
          onTake={(lines) => onChange((now) => setLines(now, linesOf, lines))}
        />
      )}
    </div>
  );
}

function BandValue({
  band,
  settingKey,
  usual,
  onChange,
}: {
  band: ResolvedBand;
  settingKey: SettingKey;
  /** What it begins with. */
  usual: number;
  onChange(value: number): void;
}) {
  const value = band.settings[settingKey];
  if (value === undefined) {
    return (
      <button className="link-button" onClick={() => onChange(usual)}>
        not set
      </button>
    );
  }
  return (
    <SettingField
      settingKey={settingKey}
      label={`${settingFor(settingKey).label} of band ${band.number}`}
      value={value}
      width={52}
      onChange={onChange}
    />
  );
}
