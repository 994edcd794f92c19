"use client";
/** What counts, what the marks say, and where one goes from there. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import type { Asking } from "@/core/reading/found";
import type { Rule } from "@/core/reading/guide";
import type { Weights } from "@/core/reading/score";
import type { Verdict } from "@/core/reading/verdict";
import { criterionFor } from "@/core/reading";
import { nextRound } from "@/core/trials/next-round";
import { sayValue, settingFor } from "@/core/settings";
import type { ForeseenRound } from "@/core/trials/placed-round";
import { Tower, towersOf } from "@/core/trials/in-another-kind";
import { plainNumber } from "@/core/units";
import { api, StoredTrial } from "../common/api";
import { keys } from "../common/keys";
import { useSpools } from "../common/queries";
import { sayEffort } from "../bench/say-effort";
import { useAct } from "../common/use-act";
import styles from "./reading.module.css";
import type { SentRun } from "./run-data";

/** Shares offered; 1 is as the kind has it. */
const MOST_WEIGHT = 2;

interface CountsProps {
  rule: Rule;
  weights: Weights;
  onWeight(key: "looks" | "strength" | "speed", value: number): void;
}

export function WhatCounts({ rule, weights, onWeight }: CountsProps) {
  const shown = rule === "most" ? (["looks", "strength", "speed"] as const) : (["looks", "strength"] as const);
  return (
    <section className="card" aria-label="What counts">
      <h2>What counts</h2>
      {shown.map((key) => (
        <label key={key} className={styles.weight}>
          <span>{key}</span>
          <input
            type="range"
            min={0}
            max={MOST_WEIGHT}
            step={0.25}
            value={weights[key] ?? 1}
            onChange={(event) => onWeight(key, Number(event.target.value))}
          />
        </label>
      ))}
    </section>
  );
}

interface VerdictProps {
  trialId: number;
  run: SentRun;
  verdict: Verdict;
  weights: Weights;
  onKeep(): void;
  /** Goes to a question of a band. */
  onAsk(asking: Asking): void;
}

/** A band by its number; a cell of two settings by its values. */
function placeOf({ bands }: SentRun, { band }: Asking): string {
  const unit = bands.find((one) => one.band === band);
  return unit?.column === undefined ? `band ${band}` : unit.label;
}

/** Two settings may go on in different ways, one finer and one further. */
function sayAgain({ advice, rule }: Verdict): string {
  if (rule === "surface") return "Ask once more";
  return `Ask once more, ${advice === "higher" || advice === "lower" ? advice : "finer"}`;
}

const REST_MS = 700;

/** What one more round would narrow, beside what it takes: whether it is enough is the reader's choice. */
function NextRound({ trialId, run, verdict, weights }: Pick<VerdictProps, "trialId" | "run" | "verdict" | "weights">) {
  const of = JSON.stringify([run.id, verdict.value, verdict.fromValue, verdict.toValue, verdict.along, weights]);
  // Whoever goes on marking is not asked about for every mark.
  const [rested, setRested] = useState("");
  useEffect(() => {
    const timer = setTimeout(() => setRested(of), REST_MS);
    return () => clearTimeout(timer);
  }, [of]);
  const { data, isError } = useQuery({
    queryKey: keys.nextRound(trialId, of),
    enabled: rested === of,
    queryFn: () =>
      api.get<ForeseenRound>(
        `/trials/${trialId}/next?runId=${run.id}&weights=${encodeURIComponent(JSON.stringify(weights))}`,
      ),
    retry: false,
    staleTime: Infinity,
  });
  if (isError) return null;
  if (!data) return <p className="dim">Once more takes …</p>;
  const { unit, decimals } = settingFor(verdict.setting);
  const say = (width: number) => `${plainNumber(width, decimals + 1)} ${unit}`.trim();
  const narrows =
    data.narrowsTo !== null && data.narrowsTo < data.width
      ? `, and is likely to narrow the range from ${say(data.width)} to about ${say(data.narrowsTo)}`
      : "";
  return (
    <p className="dim">
      Once more takes {sayEffort([data])}
      {narrows}.
    </p>
  );
}

export function VerdictCard({ trialId, run, verdict, weights, onKeep, onAsk }: VerdictProps) {
  const router = useRouter();
  const client = useQueryClient();
  const { busy, act } = useAct();
  const { advice, value, why, tellsMost } = verdict;
  const again = (tower?: Tower) =>
    act(async () => {
      const { id } = await api.post<StoredTrial>(`/trials/${trialId}/next`, {
        runId: run.id,
        weights,
        kind: tower?.kind,
        setting: tower?.setting,
      });
      await client.invalidateQueries({ queryKey: keys.trials });
      router.push(`/trials/${id}`);
    });
  const isSaid = value !== null && advice !== "mark-more";
  const spool = useSpools().data?.find(({ id }) => id === run.trial.spoolId) ?? null;
  const next = nextRound(run.trial, { printer: run.printer, spool }, verdict);
  const asksMore = next.ok && advice !== "keep";
  return (
    <section className={`card ${styles.verdict}`} aria-label="Verdict">
      <div aria-live="polite">
        <h2>{isSaid ? sayVerdict(verdict) : "Nothing stands out yet"}</h2>
        <p>{why}</p>
        {verdict.resonance && <p>{verdict.resonance.why}</p>}
        {isSaid && !next.ok && <p className="dim">{next.message}</p>}
        {isSaid && next.ok && <NextRound trialId={trialId} run={run} verdict={verdict} weights={weights} />}
        {tellsMost && advice !== "keep" && (
          <Button size="small" onClick={() => onAsk(tellsMost)}>
            Go to {criterionFor(tellsMost.criterion).short} of {placeOf(run, tellsMost)}
          </Button>
        )}
      </div>
      {isSaid && (
        <div className={styles.acts}>
          {next.ok && (
            <Button className={asksMore ? "go" : undefined} loading={busy} onClick={() => void again()}>
              {sayAgain(verdict)}
            </Button>
          )}
          {towersOf(verdict, run.printer).map((tower) => (
            <Button key={tower.setting} loading={busy} onClick={() => void again(tower)}>
              Go on as a tower: {settingFor(tower.setting).label.toLowerCase()}
            </Button>
          ))}
          <Button className={asksMore ? undefined : "go"} onClick={onKeep}>
            Keep {sayVerdict(verdict)}
          </Button>
        </div>
      )}
    </section>
  );
}

/** `208 °C` */
export function sayVerdict({ setting, value, unit, along }: Verdict): string {
  const said = `${plainNumber(value ?? 0, settingFor(setting).decimals + 1)} ${unit}`.trim();
  return along ? `${said} at ${sayValue(along.setting, along.value)}` : said;
}
