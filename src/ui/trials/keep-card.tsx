"use client";
/** What is kept for this printer and spool, and keeping the value of the band under the cursor. */
import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { SettingKey, settingFor } from "@/core/settings";
import type { Trial } from "@/core/trials/trial";
import { plainNumber } from "@/core/units";
import { api } from "../common/api";
import { useKept, useTell } from "../common/queries";

interface Props {
  trial: Trial;
  shown: SettingKey;
  /** Number of the band under the cursor and its value; null on the base. */
  band: { number: number; value: number } | null;
}

export function KeepCard({ trial, shown, band }: Props) {
  const { printerId, spoolId } = trial;
  const kept = useKept(printerId, spoolId).data ?? [];
  const client = useQueryClient();
  const tell = useTell();
  const { label, unit, decimals } = settingFor(shown);
  const own = kept.find(({ setting }) => setting === shown);
  const say = (value: number) => `${plainNumber(value, decimals)} ${unit}`;
  const change = async (act: () => Promise<unknown>, done: string) => {
    try {
      await act();
      await client.invalidateQueries({ queryKey: ["kept"] });
      tell.done(done);
    } catch (error) {
      tell.error(error);
    }
  };
  return (
    <section className="card" aria-label="Kept">
      <h2>Kept for this pair</h2>
      <p className="dim">
        {own ? (
          <>
            {label} {say(own.value)}.{" "}
            <button
              className="link-button"
              onClick={() => void change(() => api.remove(`/kept/${own.id}`), `${say(own.value)} is no longer kept.`)}
            >
              Take it back
            </button>
          </>
        ) : (
          `No ${label.toLowerCase()} yet. Put the cursor on the best band.`
        )}
      </p>
      {band && band.value !== own?.value && (
        <Button
          block
          style={{ marginTop: 8 }}
          onClick={() =>
            void change(
              () => api.post("/kept", { printerId, spoolId, setting: shown, value: band.value, trialId: trial.id }),
              `${say(band.value)} is kept; later trials hold it fixed.`,
            )
          }
        >
          Keep {say(band.value)} of band {band.number}
        </Button>
      )}
    </section>
  );
}
