"use client";
import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import dayjs from "dayjs";
import Link from "next/link";
import { useState } from "react";
import { planHeightMm } from "@/core/heightplan/plan";
import { settingFor } from "@/core/settings";
import { spoolTitle } from "@/core/shelf/spool";
import { trialKindFor } from "@/core/trials";
import type { Trial } from "@/core/trials/trial";
import { plainNumber } from "@/core/units";
import { Loading } from "../common/loading";
import { api } from "../common/api";
import { usePrinters, useRemoveWithUndo, useSpools, useTell, useTrials } from "../common/queries";
import { valueColours } from "./log-bands";
import { NewTrial } from "./new-trial";

export function TrialList() {
  const trials = useTrials();
  const printers = usePrinters().data ?? [];
  const spools = useSpools().data ?? [];
  const [making, setMaking] = useState(false);
  const remove = useRemoveWithUndo("/trials", "trials");
  const client = useQueryClient();
  const tell = useTell();
  const copy = async ({ id }: Trial) => {
    try {
      await api.post(`/trials/${id}/copy`);
      await client.invalidateQueries({ queryKey: ["trials"] });
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
                <BandStrip trial={trial} />
                <div style={{ display: "flex", gap: 14, alignItems: "center" }}>
                  <span className="dim">{dayjs(trial.updatedAt).format("D MMM, HH:mm")}</span>
                  <button className="link-button" onClick={() => void copy(trial)}>
                    Copy
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
    </>
  );
}

/** The plan at a glance: its bands laid on their side, bottom left. */
function BandStrip({ trial }: { trial: Trial }) {
  const { setting: key } = trialKindFor(trial.kind);
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
          : ""}
      </div>
    </div>
  );
}
