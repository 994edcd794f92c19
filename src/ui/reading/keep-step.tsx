"use client";
/** Keeping what a piece has shown, where later trials and every start of a print find it. */
import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { sayValue, SettingKey, settingFor } from "@/core/settings";
import { plainNumber } from "@/core/units";
import type { Trial } from "@/core/trials/trial";
import { api } from "../common/api";
import { keys } from "../common/keys";
import { TextField } from "../common/text-field";
import { useKept } from "../common/queries";
import { useTell } from "../common/talk";
import { useAct } from "../common/use-act";
import { Chain } from "./chain";
import type { SentRun } from "./run-data";
import styles from "./reading.module.css";
import { KeptHistory } from "../shelf/kept-history";
import { useVerdict, useWeights } from "./use-runs";
import { sayVerdict } from "./verdict-card";

interface Props {
  trial: Trial;
  run: SentRun;
  onRead(): void;
}

export function KeepStep({ trial, run, onRead }: Props) {
  const client = useQueryClient();
  const tell = useTell();
  const { busy, act } = useAct();
  const [note, setNote] = useState("");
  /** What was tried along and is not to be kept. */
  const [left, setLeft] = useState<SettingKey[]>([]);
  const { weights } = useWeights();
  const verdict = useVerdict(run, weights);
  const kept = useKept(trial.printerId, trial.spoolId).data ?? [];
  const own = kept.find(({ setting }) => setting === run.setting);
  const { label, unit, decimals } = settingFor(run.setting);
  const isSaid = verdict !== null && verdict.value !== null && verdict.advice !== "mark-more";
  const nearest = isSaid ? nearestUnit(run, verdict.value!) : undefined;
  const along = verdict?.along;
  const besides = along
    ? [[along.setting, along.value] as const]
    : (Object.entries(nearest?.settings ?? {}) as [SettingKey, number][]).filter(([key]) => key !== run.setting);
  const chosen = besides.filter(([key]) => !left.includes(key));

  const keep = () =>
    act(async () => {
      if (!verdict) return;
      const { value, fromValue, toValue } = verdict;
      await api.post("/kept", {
        printerId: trial.printerId,
        spoolId: trial.spoolId,
        trialId: trial.id,
        runId: run.id,
        note,
        setting: run.setting,
        value,
        fromValue,
        toValue,
        ...(chosen.length > 0 ? { settings: Object.fromEntries(chosen) } : {}),
      });
      await client.invalidateQueries({ queryKey: keys.kept });
      await client.invalidateQueries({ queryKey: keys.trials });
      tell.done(`${label} ${sayVerdict(verdict)} is kept for ${run.spoolTitle} on ${run.printer.name}.`);
    });
  const say = (value: number) => plainNumber(value, decimals + 1);
  return (
    <div className={styles.runs}>
      <section className="card" aria-label="Keep it">
        <h2>{label}</h2>
        {isSaid ? (
          <>
            <p className={styles.big}>{sayVerdict(verdict)}</p>
            <p>
              From {say(verdict.fromValue!)} to {say(verdict.toValue!)} {unit} in 9 of 10, for {run.spoolTitle} on{" "}
              {run.printer.name} with its {plainNumber(run.printer.nozzleMm)} mm nozzle.
            </p>
            <p className="dim">{verdict.why}</p>
            {besides.length > 0 && (
              <fieldset className={styles.besides}>
                <legend className="dim">
                  {along ? "Found together with" : "Tried together with, in the band nearest to it"}; kept along with
                  it:
                </legend>
                {besides.map(([key, value]) => (
                  <label key={key}>
                    <input
                      type="checkbox"
                      checked={!left.includes(key)}
                      onChange={({ target }) =>
                        setLeft(target.checked ? left.filter((one) => one !== key) : [...left, key])
                      }
                    />{" "}
                    {settingFor(key).label} {sayValue(key, value)}
                  </label>
                ))}
              </fieldset>
            )}
            <label className={styles.note}>
              Note
              <TextField value={note} onChange={setNote} placeholder="What else is worth knowing later" />
            </label>
            <Button
              className="go above"
              size="large"
              loading={busy}
              disabled={own?.value === verdict.value && own?.runId === run.id}
              onClick={() => void keep()}
            >
              Keep {sayVerdict(verdict)}
            </Button>
          </>
        ) : (
          <>
            <p>{verdict?.why ?? "Nothing was read yet."}</p>
            <Button className="go above" onClick={onRead}>
              Read the piece
            </Button>
          </>
        )}
      </section>
      <Chain trialId={trial.id} />
      <section className="card" aria-label="Kept so far">
        <h2>Kept for this pair</h2>
        <KeptHistory printerId={trial.printerId} spoolId={trial.spoolId} setting={run.setting} />
      </section>
    </div>
  );
}

/** The band whose value lies nearest to the verdict's: what else it tried goes with it. */
function nearestUnit({ bands }: SentRun, value: number) {
  return [...bands]
    .filter(({ counts }) => counts)
    .sort((a, b) => Math.abs(a.value - value) - Math.abs(b.value - value))[0];
}
