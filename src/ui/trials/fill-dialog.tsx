"use client";
/** Start, step and count → bands. */
import { Modal } from "antd";
import { ReactNode, useRef, useState } from "react";
import { fillBands } from "@/core/heightplan/reshape";
import { HeightPlan, LOWEST_BAND_MM } from "@/core/heightplan/plan";
import { SettingKey, settingFor } from "@/core/settings";
import { plainNumber } from "@/core/units";
import { Segments } from "../common/segments";
import { Fill, FillFields } from "../common/fill-fields";
import { NumberField } from "../common/number-field";

interface Props {
  plan: HeightPlan;
  settingKey: SettingKey;
  /** All that the bands vary: each can be filled. */
  varied: SettingKey[];
  layerHeightMm: number;
  onClose(): void;
  onTake(plan: HeightPlan): void;
}

export function FillDialog({ plan, settingKey, varied, layerHeightMm, onClose, onTake }: Props) {
  const [key, setKey] = useState(settingKey);
  return (
    <FillOne
      // Each setting begins with its own values.
      key={key}
      {...{ plan, layerHeightMm, onClose, onTake }}
      settingKey={key}
      choice={
        varied.length > 1 && (
          <Segments
            label="Setting to fill"
            value={key}
            options={varied.map((one) => ({ value: one, label: settingFor(one).label }))}
            onChange={setKey}
          />
        )
      }
    />
  );
}

function FillOne({
  plan,
  settingKey,
  layerHeightMm,
  choice,
  onClose,
  onTake,
}: Omit<Props, "varied"> & { choice: ReactNode }) {
  const setting = settingFor(settingKey);
  const first = plan.bands[0];
  const firstValue = first.settings[settingKey];
  const difference = (plan.bands[1]?.settings[settingKey] ?? NaN) - (firstValue ?? NaN);
  const [fill, setFill] = useState<Fill>({
    start: firstValue ?? setting.highest,
    step: difference || -setting.step,
    count: plan.bands.length,
  });
  const [heightMm, setHeightMm] = useState(first.heightMm);
  const bands = fillBands(plan, settingKey, { ...fill, heightMm });
  const form = useRef<HTMLFormElement>(null);
  const take = () => {
    onTake({ ...plan, bands });
    onClose();
  };
  const layers = Math.max(1, Math.round(heightMm / layerHeightMm));
  return (
    <Modal
      open
      title="Fill the bands"
      okText={`Make ${bands.length} bands`}
      onCancel={onClose}
      onOk={take}
      destroyOnHidden
      afterOpenChange={(isOpen) =>
        isOpen && form.current?.querySelector<HTMLInputElement>("input:not([type=radio])")?.select()
      }
    >
      <form
        ref={form}
        className="field-row"
        onSubmit={(event) => {
          event.preventDefault();
          take();
        }}
      >
        {choice}
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
          low={LOWEST_BAND_MM}
          high={500}
          onChange={setHeightMm}
        />
        <NumberField
          hideLabel={false}
          label="that is"
          value={layers}
          unit="layers"
          low={1}
          high={2500}
          decimals={0}
          onChange={(next) => setHeightMm(Math.round(next * layerHeightMm * 1000) / 1000)}
        />
        {/* Enter in any field makes the bands. */}
        <button type="submit" hidden />
      </form>
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
