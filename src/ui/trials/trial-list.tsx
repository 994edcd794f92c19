"use client";
import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import dayjs from "dayjs";
import Link from "next/link";
import { useState } from "react";
import { planHeightMm } from "@/core/heightplan/plan";
import { settingFor } from "@/core/settings";
import type { Printer } from "@/core/shelf/printer";
import { spoolTitle } from "@/core/shelf/spool";
import { trialKindFor } from "@/core/trials";
import type { Trial } from "@/core/trials/trial";
import { plainNumber } from "@/core/units";
import { api } from "../common/api";
import { Loading } from "../common/loading";
import { usePrinters, useRemoveWithUndo, useSpools, useTell, useTrials } from "../common/queries";
import { CopyTrial } from "./copy-trial";
import { valueColours } from "./log-bands";
import { NewTrial } from "./new-trial";
import { primaryKey } from "./varied";
import { keys } from "../common/keys";

export function TrialList() {
  const trials = useTrials();
  const printers = usePrinters().data ?? [];
  const spools = useSpools().data ?? [];
  const [making, setMaking] = useState(false);
  const remove = useRemoveWithUndo("/trials", "trials");
  const [copying, setCopying] = useState<Trial | null>(null);
  const client = useQueryClient();
  const tell = useTell();
  const copy = async ({ id }: Trial) => {
    try {
      await api.post(`/trials/${id}/copy`);
      await client.invalidateQueries({ queryKey: keys.trials });
    } catch (error) {
      tell.error(error);
    }
  };
  return (
    <>
      <div className="page-head" style={{ marginBottom: 16 }}>
        <div>
          <h1>Trials</h1>
          <p className="sub">One question each, put to one printer and one spool.</p>
        </div>
        <Button className="go" size="large" onClick={() => setMaking(true)}>
          New trial
        </Button>
      </div>
      {trials.isLoading && <Loading />}
      {trials.error && (
        <div className="empty" role="alert">
          The trials could not be loaded. <Button onClick={() => void trials.refetch()}>Try again</Button>
        </div>
      )}
      {trials.data?.length === 0 && (
        <div className="empty">
          <h2>No trial yet</h2>
          <p>Ask how hot the spool on the bench wants to be.</p>
          <Button onClick={() => setMaking(true)}>New trial</Button>
        </div>
      )}
      {trials.data && trials.data.length > 0 && (
        <ul className="rows" aria-label="Trials">
          {trials.data.map((trial) => {
            const spool = spools.find(({ id }) => id === trial.spoolId);
            const printer = printers.find(({ id }) => id === trial.printerId);
            return (
              <li
                key={trial.id}
                className="list-row"
                style={{ gridTemplateColumns: "minmax(0, 1.5fr) minmax(0, 1fr) 190px auto" }}
              >
                <div>
                  <Link className="title" href={`/trials/${trial.id}`}>
                    {trial.name}
                  </Link>
                  <div className="dim">{trialKindFor(trial.kind).label}</div>
                </div>
                <div className="dim">
                  {printer?.name ?? "printer removed"}
                  <br />
                  {spool ? spoolTitle(spool) : "spool removed"}
                </div>
                <BandStrip trial={trial} printer={printer ?? null} />
                <div style={{ display: "flex", gap: 14, alignItems: "center" }}>
                  <span className="dim">{dayjs(trial.updatedAt).format("D MMM, HH:mm")}</span>
                  <button className="link-button" onClick={() => void copy(trial)}>
                    Copy
                  </button>
                  <button className="link-button" onClick={() => setCopying(trial)}>
                    Copy to …
                  </button>
                  <button className="link-button" onClick={() => void remove(trial.id, `“${trial.name}”`)}>
                    Remove
                  </button>
                </div>
              </li>
            );
          })}
        </ul>
      )}
      <NewTrial open={making} onClose={() => setMaking(false)} />
      {copying && <CopyTrial trial={copying} onClose={() => setCopying(null)} />}
    </>
  );
}

/** The plan at a glance: its bands laid on their side, bottom left. */
function BandStrip({ trial, printer }: { trial: Trial; printer: Printer | null }) {
  const key = primaryKey(trial, printer);
  const { unit, decimals } = settingFor(key);
  const values = trial.plan.bands.map(({ settings }) => settings[key]);
  const colours = valueColours(values);
  const total = planHeightMm(trial.plan);
  const first = values[0];
  const last = values[values.length - 1];
  return (
    <div>
      <div
        style={{ display: "flex", height: 12, borderRadius: 4, overflow: "hidden", background: "var(--primary)" }}
        aria-hidden
      >
        <span style={{ width: `${(trial.plan.baseHeightMm / total) * 100}%` }} />
        {trial.plan.bands.map(({ heightMm }, i) => (
          <span
            key={i}
            style={{
              width: `${(heightMm / total) * 100}%`,
              background: colours[i],
              borderLeft: "1px solid var(--surface)",
            }}
          />
        ))}
      </div>
      <div className="dim mono" style={{ fontSize: 12, marginTop: 3 }}>
        {first !== undefined && last !== undefined
          ? `${plainNumber(first, decimals)} → ${plainNumber(last, decimals)} ${unit}`
          : `${trial.plan.sideBySide?.values.length ?? 0} side by side`}
      </div>
    </div>
  );
}
