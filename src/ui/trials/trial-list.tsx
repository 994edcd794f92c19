"use client";
import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import dayjs from "dayjs";
import Link from "next/link";
import { useState } from "react";
import { spoolTitle } from "@/core/shelf/spool-title";
import type { BriefTrial } from "@/core/trials/brief";
import { plainNumber } from "@/core/units";
import { api } from "../common/api";
import { Loading } from "../common/loading";
import { usePrinters, useRemoveWithUndo, useSpools, useTrials } from "../common/queries";
import { valueColours } from "./log-bands";
import { CopyTrial, NewTrial } from "./opened-later";
import { keys } from "../common/keys";
import { useTell } from "../common/talk";

export function TrialList() {
  const trials = useTrials();
  const printers = usePrinters().data ?? [];
  const spools = useSpools().data ?? [];
  const [making, setMaking] = useState(false);
  const remove = useRemoveWithUndo("/trials", "trials");
  const [copying, setCopying] = useState<BriefTrial | null>(null);
  const client = useQueryClient();
  const tell = useTell();
  const copy = async ({ id }: BriefTrial) => {
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
                  <div className="dim">{trial.kindLabel}</div>
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
      {making && <NewTrial open onClose={() => setMaking(false)} />}
      {copying && <CopyTrial trial={copying} onClose={() => setCopying(null)} />}
    </>
  );
}

/** The plan at a glance: its bands laid on their side, bottom left. */
function BandStrip({ trial }: { trial: BriefTrial }) {
  const { unit, decimals } = trial;
  const values = trial.bands.map(([, value]) => value ?? undefined);
  const colours = valueColours(values);
  const total = trial.bands.reduce((sum, [heightMm]) => sum + heightMm, trial.baseHeightMm);
  const first = values[0];
  const last = values[values.length - 1];
  return (
    <div>
      <div
        style={{ display: "flex", height: 12, borderRadius: 4, overflow: "hidden", background: "var(--primary)" }}
        aria-hidden
      >
        <span style={{ width: `${(trial.baseHeightMm / total) * 100}%` }} />
        {trial.bands.map(([heightMm], i) => (
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
          : `${trial.besides} side by side`}
      </div>
    </div>
  );
}
