"use client";
/** What is kept for this printer and spool, and keeping the value of the band under the cursor. */
import { useQueryClient } from "@tanstack/react-query";
import { Button, Select } from "antd";
import type { SideBySide } from "@/core/heightplan/plan";
import { SettingKey, settingFor } from "@/core/settings";
import type { Trial } from "@/core/trials/trial";
import { plainNumber } from "@/core/units";
import { api } from "../common/api";
import { useKept } from "../common/queries";
import { keys } from "../common/keys";
import { useTell } from "../common/talk";

interface Props {
  trial: Trial;
  shown: SettingKey;
  sideBySide: SideBySide | null;
  /** Number of the band under the cursor and its value; null on the base. */
  band: { number: number; value: number } | null;
}

function say(key: SettingKey, value: number): string {
  const { unit, decimals } = settingFor(key);
  return `${plainNumber(value, decimals)} ${unit}`;
}

export function KeepCard({ trial, shown, sideBySide, band }: Props) {
  const { printerId, spoolId } = trial;
  const kept = useKept(printerId, spoolId).data ?? [];
  const client = useQueryClient();
  const tell = useTell();
  const own = kept.find(({ setting }) => setting === shown);
  const { label } = settingFor(shown);
  const change = async (act: () => Promise<unknown>, done: string) => {
    try {
      await act();
      await client.invalidateQueries({ queryKey: keys.kept });
      tell.done(done);
    } catch (error) {
      tell.error(error);
    }
  };
  const keep = (setting: SettingKey, value: number) =>
    change(
      () => api.post("/kept", { printerId, spoolId, setting, value, trialId: trial.id }),
      `${say(setting, value)} is kept; later trials hold it fixed.`,
    );
  return (
    <section className="card" aria-label="Kept">
      <h2>Kept for this pair</h2>
      <p className="dim">
        {own ? (
          <>
            {label} {say(shown, own.value)}.{" "}
            <button
              className="link-button"
              onClick={() =>
                void change(() => api.remove(`/kept/${own.id}`), `${say(shown, own.value)} is no longer kept.`)
              }
            >
              Take it back
            </button>
          </>
        ) : (
          `No ${label.toLowerCase()} yet.${band || sideBySide?.setting !== shown ? " Put the cursor on the best band." : ""}`
        )}
      </p>
      {band && band.value !== own?.value && (
        <Button block className="above" onClick={() => void keep(shown, band.value)}>
          Keep {say(shown, band.value)} of band {band.number}
        </Button>
      )}
      {sideBySide && (
        <Select
          aria-label={`Keep a ${settingFor(sideBySide.setting).label.toLowerCase()}`}
          className="whole above"
          placeholder={`Keep a ${settingFor(sideBySide.setting).label.toLowerCase()} …`}
          value={null}
          options={sideBySide.values.map((value) => ({ value, label: say(sideBySide.setting, value) }))}
          onChange={(value: number | null) => value !== null && void keep(sideBySide.setting, value)}
        />
      )}
    </section>
  );
}
