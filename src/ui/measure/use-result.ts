"use client";
/** What readings come to, and what can be done with it: try it in the printer, save it there, keep it. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { valueFor } from "@/core/firmware/values";
import { tuneFor, TuneKey } from "@/core/measure";
import { resultOf, sayResult } from "@/core/measure/result";
import type { TuneOutcome } from "@/core/measure/tune";
import { api, ApiError, SavedPrinter, SavedSpool } from "../common/api";
import { keys } from "../common/keys";
import { useAsk, useTell } from "../common/talk";
import { useSaveValues } from "../printer/save-values";
import type { Run } from "./use-guide";

interface Given {
  tuneKey: TuneKey;
  printer: SavedPrinter;
  spool: SavedSpool | null;
  runs: Run[];
  /** The last reading's outcome. */
  outcome: TuneOutcome;
  /** The outcome that was tried last. */
  tried: TuneOutcome | undefined;
  /** Firmware values as they are known to be. */
  inForce: Record<string, number>;
  onRuns(runs: Run[]): void;
}

export function useResult({ tuneKey, printer, spool, runs, outcome, tried, inForce, onRuns }: Given) {
  const ask = useAsk();
  const client = useQueryClient();
  const tell = useTell();
  const [busy, setBusy] = useState(false);
  const [keptRuns, setKeptRuns] = useState<number | null>(null);
  const tune = tuneFor(tuneKey);
  const result = resultOf(outcome, tried, inForce);
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
      for (const [id, value] of Object.entries(outcome.firmware)) {
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
      onRuns(runs.map((run, i) => (i === runs.length - 1 ? { ...run, triedAs: outcome } : run)));
      return "Set and read back. Now run it again to confirm.";
    });
  };
  const saving = useSaveValues(printer);
  const keep = () =>
    act(async () => {
      await api.post("/measure", { printerId: printer.id, tune: tuneKey, spoolId: spool?.id ?? null, ...result });
      setKeptRuns(runs.length);
      for (const queryKey of [keys.printers, keys.measurementsOf(printer.id), keys.kept])
        await client.invalidateQueries({ queryKey });
      return `Kept: ${sayResult(result)}.`;
    });
  // Another reading is another result.
  return { busy: busy || saving.busy, result, isKept: keptRuns === runs.length, attempt, saving, keep };
}
