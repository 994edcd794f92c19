"use client";
/** The readings so far, what they say together, and what is done with the result. */
import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { dialects } from "@/core/machine/dialects";
import { valueFor } from "@/core/firmware/values";
import { valueLine } from "@/core/firmware/values/change";
import { tuneFor, TuneKey } from "@/core/measure";
import { resultOf, sayResult } from "@/core/measure/result";
import { judgeRuns } from "@/core/measure/runs";
import { SettingKey, settingFor } from "@/core/settings";
import { plainNumber } from "@/core/units";
import { api, ApiError, SavedPrinter, SavedSpool } from "../common/api";

import type { Run } from "./use-guide";
import { keys } from "../common/keys";
import { useAsk, useTell } from "../common/talk";

interface Props {
  tuneKey: TuneKey;
  printer: SavedPrinter;
  spool: SavedSpool | null;
  runs: Run[];
  live: boolean;
  /** Firmware values as they are known to be. */
  inForce: Record<string, number>;
  onRuns(runs: Run[]): void;
}

export function RunList({ tuneKey, printer, spool, runs, live, inForce, onRuns }: Props) {
  const ask = useAsk();
  const client = useQueryClient();
  const tell = useTell();
  const [busy, setBusy] = useState(false);
  const [keptRuns, setKeptRuns] = useState<number | null>(null);
  // Another reading is another result.
  const kept = keptRuns === runs.length;
  const setKept = (is: boolean) => setKeptRuns(is ? runs.length : null);
  const tune = tuneFor(tuneKey);
  // Readings with the same values in force belong together.
  const since = runs.findLastIndex(({ tried }) => tried) + 1;
  const recent = runs.slice(since).map(({ outcome }) => outcome);
  const said = judgeRuns(tune, recent);
  const outcome = runs.at(-1)?.outcome;
  const tried = runs.findLast(({ tried: one }) => one)?.outcome;
  if (!outcome) {
    return (
      <section className="card" aria-label="Readings">
        <h2>Readings</h2>
        <p className="dim">None yet. Each reading shows its sum; nothing is changed before you say so.</p>
      </section>
    );
  }
  const firmware = Object.entries(outcome.firmware);
  const settings = Object.entries(outcome.settings ?? {}) as [SettingKey, number][];
  const { feedsPerMinute } = dialects[printer.dialect];
  const refusal = tune.refuses?.(printer) ?? null;
  const wasTried = runs.at(-1)?.tried === true;
  const lines = firmware.flatMap(([id, value]) => {
    const found = valueFor(id);
    return found ? [valueLine(found.definition, found.tool, value, feedsPerMinute, printer.tools)] : [];
  });
  const act = async (work: () => Promise<string>) => {
    setBusy(true);
    try {
      tell.done(await work());
    } catch (error) {
      tell.error(error);
    } finally {
      setBusy(false);
      await client.invalidateQueries({ queryKey: keys.firmware(printer.id) });
    }
  };
  const attempt = async () => {
    const asks = [outcome.ask].filter((one) => one !== undefined);
    if (asks.length > 0 && !(await ask({ title: asks[0], okText: "Yes, try it", cancelText: "No" }))) return;
    await act(async () => {
      for (const [id, value] of firmware) {
        const { taken } = await api.post<{ taken: boolean }>("/link/values/try", {
          printerId: printer.id,
          id,
          value,
          why: `${tune.title}, measured`,
          // PID figures are found by the printer itself and may be far from what it had.
          confirmed: asks.length > 0 || tune.fromAnswers !== undefined,
        });
        if (!taken) throw new ApiError(409, `The printer did not take ${valueFor(id)?.definition.label ?? id}.`);
      }
      onRuns(runs.map((run, i) => (i === runs.length - 1 ? { ...run, tried: true } : run)));
      return "In force, read back. Now run it again to confirm.";
    });
  };
  const save = () =>
    act(async () => {
      const { lost } = await api.post<{ lost: string[] }>("/link/values/save", { printerId: printer.id });
      if (lost.length > 0) throw new ApiError(409, `${lost.length} values came back different after saving.`);
      return "Saved in the printer, loaded again, and still the same.";
    });
  const result = resultOf(outcome, tried, inForce);
  const keep = () =>
    act(async () => {
      await api.post("/measure", { printerId: printer.id, tune: tuneKey, spoolId: spool?.id ?? null, ...result });
      setKept(true);
      for (const queryKey of [keys.printers, keys.measurementsOf(printer.id), keys.kept])
        await client.invalidateQueries({ queryKey });
      return `Kept: ${sayResult(result)}.`;
    });
  return (
    <>
      <section className="card" aria-label="Readings">
        <h2>Readings</h2>
        <ol className="history">
          {runs.map(({ outcome: one, tried: was }, i) => (
            <li key={i}>
              <span className="mono">
                {plainNumber(one.measured, 2)} {one.unit}
              </span>
              {one.within ? ", good" : ""}
              {was && <span className="dim"> · new value tried</span>}{" "}
              {i === runs.length - 1 && !was && (
                <button className="link-button" onClick={() => onRuns(runs.slice(0, -1))}>
                  Drop it
                </button>
              )}
            </li>
          ))}
        </ol>
        {said && (
          <div className={`finding ${said.disagree ? "stop" : said.done ? "ok" : "note"}`} role="status">
            {said.advice}
          </div>
        )}
        {wasTried && (
          <div className="finding note">The new value is in force. Run it again to see that it is right.</div>
        )}
      </section>
      <section className="card" aria-label="The new value">
        <h2>The new value</h2>
        {outcome.within && !tried ? (
          <p className="dim">Nothing to change.</p>
        ) : (
          <>
            {(lines.length > 0 || settings.length > 0) && (
              <pre className="mono start-lines">
                {[
                  ...lines,
                  ...settings.map(
                    ([key, value]) => `${settingFor(key).label} ${plainNumber(value, 1)} ${settingFor(key).unit}`,
                  ),
                ].join("\n")}
              </pre>
            )}
            {firmware.length > 0 && !outcome.within && !wasTried && (
              <Button
                className={recent.length > 1 || tune.agreeWithin === Infinity ? "go" : ""}
                block
                disabled={!live || busy || said?.disagree || refusal !== null}
                onClick={() => void attempt()}
              >
                Try it
              </Button>
            )}
            {firmware.length > 0 && tried && (
              <Button
                className={outcome.within ? "go" : ""}
                block
                style={{ marginTop: 8 }}
                disabled={!live || busy}
                onClick={() => void save()}
              >
                Save in the printer
              </Button>
            )}
            {!live && firmware.length > 0 && (
              <p className="dim" style={{ marginTop: 8 }}>
                Without a link: put this line at the start of your prints, or send it by other means and save it there.
              </p>
            )}
          </>
        )}
        {kept ? (
          <p className="finding ok" role="status">
            Kept: {sayResult(result)}.
          </p>
        ) : (
          <Button block style={{ marginTop: 8 }} disabled={busy} onClick={() => void keep()}>
            Keep it
          </Button>
        )}
      </section>
    </>
  );
}
