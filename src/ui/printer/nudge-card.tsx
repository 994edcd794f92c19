"use client";
/** Changing a setting by hand while a job runs; every change becomes a mark at its height. */
import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { JobView, nudgeable } from "@/core/link/state";
import { settingFor, SettingKey } from "@/core/settings";
import { plainNumber } from "@/core/units";
import { Choice } from "../common/choice";
import { api, SavedPrinter } from "../common/api";
import { SettingField } from "../common/setting-field";

import { inForceAt } from "@/core/link/job-facts";
import { keys } from "../common/keys";
import { useTell } from "../common/talk";

export function NudgeCard({ printer, job }: { printer: SavedPrinter; job: JobView }) {
  const client = useQueryClient();
  const tell = useTell();
  const [setting, setSetting] = useState<SettingKey>("nozzleTemperature");
  const layer = Math.max(0, job.status.layer);
  const now = inForceAt(job, setting, layer) ?? settingFor(setting).usual(printer, null);
  const [value, setValue] = useState<number | null>(null);
  const { step, unit, decimals, lowest, highest } = settingFor(setting);
  const send = async (next: number) => {
    try {
      await api.post("/link/job/nudge", { printerId: printer.id, setting, value: next });
      setValue(null);
      await client.invalidateQueries({ queryKey: keys.job(printer.id) });
    } catch (error) {
      tell.error(error);
    }
  };
  const held = (next: number) => Math.min(highest, Math.max(lowest, next));
  return (
    <section className="card" aria-label="Change by hand">
      <h2>Change by hand</h2>
      <Choice
        label="Setting to change"
        className="whole"
        value={setting}
        options={nudgeable.map((key) => ({ value: key, label: settingFor(key).label }))}
        onChange={(next) => {
          setSetting(next);
          setValue(null);
        }}
      />
      <div className="line above">
        <Button
          onClick={() => void send(held(now - step))}
          aria-label={`−${plainNumber(step, decimals)}: to ${plainNumber(held(now - step), decimals)} ${unit}`}
        >
          −{plainNumber(step, decimals)}
        </Button>
        <SettingField settingKey={setting} label="New value" value={value ?? now} width={52} onChange={setValue} />
        <Button
          onClick={() => void send(held(now + step))}
          aria-label={`+${plainNumber(step, decimals)}: to ${plainNumber(held(now + step), decimals)} ${unit}`}
        >
          +{plainNumber(step, decimals)}
        </Button>
        <Button disabled={value === null || value === now} onClick={() => value !== null && void send(value)}>
          Set
        </Button>
      </div>
      <p className="dim above">
        Takes effect at once and stands on the log at its height. The plan’s own changes further up still come.
      </p>
    </section>
  );
}
