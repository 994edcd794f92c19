"use client";
/** The bands as a table: edit, add, remove, fill, paste. Top band first, as on the piece. */
import { Button, Input, Modal } from "antd";
import { useState } from "react";
import { addBand, fillBands, pasteBands, removeBand, setBandHeight, setValue } from "@/core/heightplan/change";
import type { HeightPlan } from "@/core/heightplan/plan";
import type { ResolvedBand } from "@/core/heightplan/plan";
import { SettingKey, settingFor } from "@/core/settings";
import { plainNumber } from "@/core/units";
import { Fill, FillFields } from "../common/fill-fields";
import { NumberField } from "../common/number-field";

interface Props {
  plan: HeightPlan;
  bands: ResolvedBand[];
  colours: string[];
  settingKey: SettingKey;
  cursorBand: number | undefined;
  onChange(change: (plan: HeightPlan) => HeightPlan): void;
  onFill(): void;
}

export function BandTable({ plan, bands, colours, settingKey, cursorBand, onChange, onFill }: Props) {
  const setting = settingFor(settingKey);
  const [pasting, setPasting] = useState(false);
  return (
    <div>
      <div style={{ display: "flex", gap: 8, flexWrap: "wrap", margin: "4px 0 10px" }}>
        <Button onClick={() => onChange((now) => addBand(now, settingKey))}>Add a band on top</Button>
        <Button onClick={onFill}>Fill values …</Button>
        <Button onClick={() => setPasting(true)}>Paste a list …</Button>
      </div>
      <div className="card" style={{ padding: 0, overflowX: "auto" }}>
        <table className="grid-table">
          <thead>
            <tr>
              <th>Band</th>
              <th>{setting.label}</th>
              <th>Height</th>
              <th>From – to, on layers</th>
              <th>Layers from 1</th>
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
                  <td>
                    <i
                      style={{
                        display: "inline-block",
                        width: 10,
                        height: 10,
                        borderRadius: 3,
                        background: colours[index],
                        marginRight: 8,
                      }}
                    />
                    {band.number}
                  </td>
                  <td>
                    <NumberField
                      label={`${setting.label} of band ${band.number}`}
                      value={band.settings[settingKey] ?? 0}
                      unit={setting.unit}
                      low={setting.lowest}
                      high={setting.highest}
                      step={setting.step}
                      decimals={setting.decimals}
                      onChange={(value) => onChange((now) => setValue(now, index, settingKey, value))}
                    />
                  </td>
                  <td>
                    <NumberField
                      label={`Height of band ${band.number}`}
                      value={plan.bands[index].heightMm}
                      unit="mm"
                      low={0.4}
                      high={500}
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
              <td className="dim">like band 1</td>
              <td>
                <NumberField
                  label="Height of the base"
                  value={plan.baseHeightMm}
                  unit="mm"
                  low={0}
                  high={50}
                  onChange={(baseHeightMm) => onChange((now) => ({ ...now, baseHeightMm }))}
                />
              </td>
              <td className="mono">from the bed</td>
              <td />
              <td />
            </tr>
          </tbody>
        </table>
      </div>
      <PasteDialog
        open={pasting}
        plan={plan}
        settingKey={settingKey}
        onClose={() => setPasting(false)}
        onTake={(next) => onChange(() => next)}
      />
    </div>
  );
}

/** Start, step and count → bands. */
export function FillDialog(props: {
  open: boolean;
  plan: HeightPlan;
  settingKey: SettingKey;
  onClose(): void;
  onTake(plan: HeightPlan): void;
}) {
  const { open, plan, settingKey, onClose, onTake } = props;
  const setting = settingFor(settingKey);
  const first = plan.bands[0];
  const [fill, setFill] = useState<Fill>({
    start: first.settings[settingKey] ?? setting.highest,
    step:
      plan.bands.length > 1
        ? (plan.bands[1].settings[settingKey] ?? 0) - (first.settings[settingKey] ?? 0) || -setting.step
        : -setting.step,
    count: plan.bands.length,
  });
  const [heightMm, setHeightMm] = useState(first.heightMm);
  const bands = fillBands(settingKey, fill.start, fill.step, fill.count, heightMm);
  return (
    <Modal
      open={open}
      title="Fill the bands"
      okText={`Make ${bands.length} bands`}
      onCancel={onClose}
      onOk={() => {
        onTake({ ...plan, bands });
        onClose();
      }}
      destroyOnHidden
    >
      <div style={{ display: "flex", gap: 14, flexWrap: "wrap", margin: "12px 0" }}>
        <FillFields
          setting={setting}
          fill={fill}
          labels={{ start: "Bottom band", step: "Step a band", count: "Bands" }}
          onChange={setFill}
        />
        <NumberField
          hideLabel={false}
          label="Each"
          value={heightMm}
          unit="mm"
          low={0.4}
          high={500}
          onChange={setHeightMm}
        />
      </div>
      <p className="dim mono">
        {bands
          .slice(0, 14)
          .map((band) => plainNumber(band.settings[settingKey] ?? 0, setting.decimals))
          .join(", ")}
        {bands.length > 14 ? " …" : ""} {setting.unit}, bottom first
      </p>
    </Modal>
  );
}

function PasteDialog(props: {
  open: boolean;
  plan: HeightPlan;
  settingKey: SettingKey;
  onClose(): void;
  onTake(plan: HeightPlan): void;
}) {
  const { open, plan, settingKey, onClose, onTake } = props;
  const [text, setText] = useState("");
  const setting = settingFor(settingKey);
  const read = text.trim() === "" ? null : pasteBands(text, settingKey, plan);
  return (
    <Modal
      open={open}
      title="Paste a list of bands"
      okText={read?.ok ? `Take ${read.value.bands.length} bands` : "Take the bands"}
      okButtonProps={{ disabled: !read?.ok }}
      onCancel={onClose}
      onOk={() => {
        if (!read?.ok) return;
        onTake(read.value);
        setText("");
        onClose();
      }}
    >
      <p className="dim">
        From text or a spreadsheet, bottom band first: one column of values in {setting.unit}, or two columns, the
        height in mm where a band starts and its value.
      </p>
      <Input.TextArea
        aria-label="List of bands"
        rows={8}
        className="mono"
        style={{ marginTop: 10 }}
        placeholder={"1.5\t220\n11.5\t215\n21.5\t210"}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {read && !read.ok && (
        <p className="field-error" role="alert">
          {read.message}
        </p>
      )}
    </Modal>
  );
}
