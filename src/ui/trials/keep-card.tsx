"use client";
/** What is kept for this printer and spool, and keeping the values of the band under the cursor. */
import { Button } from "antd";
import { Chooser } from "../common/chooser";
import type { SideBySide } from "@/core/heightplan/plan";
import { sayValue, SettingKey, settingFor, SettingValues } from "@/core/settings";
import type { Trial } from "@/core/trials/trial";
import { useKept } from "../common/queries";
import { sayAllKept, useKeep } from "./use-keep";

/** The band under the cursor and what it varies. */
export interface BandToKeep {
  number: number;
  settings: SettingValues;
}

interface Props {
  trial: Trial;
  shown: SettingKey;
  sideBySide: SideBySide | null;
  /** Null on the base. */
  band: BandToKeep | null;
}

export function KeepCard({ trial, shown, sideBySide, band }: Props) {
  const kept = useKept(trial.printerId, trial.spoolId).data ?? [];
  const { keep, takeBack } = useKeep(trial);
  const own = kept.find(({ setting }) => setting === shown);
  const { label } = settingFor(shown);
  const isOf = (key: string, value: number) => kept.some((one) => one.setting === key && one.value === value);
  const settings = Object.entries(band?.settings ?? {}) as [SettingKey, number][];
  const isKept = settings.every(([key, value]) => isOf(key, value));
  return (
    <section className="card" aria-label="Kept">
      <h2>Kept for this pair</h2>
      <p className="dim">
        {own ? (
          <>
            {label} {sayValue(shown, own.value)}.{" "}
            <button className="link-button" onClick={() => void takeBack(own.id, sayValue(shown, own.value))}>
              Take it back
            </button>
          </>
        ) : (
          `No ${label.toLowerCase()} yet.${band || sideBySide?.setting !== shown ? " Put the cursor on the best band." : ""}`
        )}
      </p>
      {band && !isKept && (
        <Button block className="above wraps" aria-keyshortcuts="K" onClick={() => void keep(band.settings)}>
          Keep {sayAllKept(band.settings)} of band {band.number}
        </Button>
      )}
      {settings.length > 1 &&
        settings
          .filter(([key, value]) => !isOf(key, value))
          .map(([key, value]) => (
            <Button key={key} block className="above" onClick={() => void keep({ [key]: value })}>
              Only the {settingFor(key).label.toLowerCase()}, {sayValue(key, value)}
            </Button>
          ))}
      {sideBySide && (
        <Chooser
          className="whole above"
          choices={sideBySide.values.map((key) => ({ key, label: sayValue(sideBySide.setting, key) }))}
          onChoose={(value) => void keep({ [sideBySide.setting]: value })}
        >
          Keep a {settingFor(sideBySide.setting).label.toLowerCase()} …
        </Chooser>
      )}
    </section>
  );
}
