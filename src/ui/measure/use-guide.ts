"use client";
/** A measured tune being gone through: what was typed and read, what the printer is asked to do, and what follows from it. */
import { useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { tuneFor, TuneKey } from "@/core/measure";
import { isHot, sayMeasured } from "@/core/measure/hot";
import { actLines } from "@/core/measure/program";
import { usualInputs } from "@/core/measure/request";
import { toolOf, TuneOutcome, TuneRequest } from "@/core/measure/tune";
import type { SettingValues } from "@/core/settings";
import type { RulerReadings } from "@/core/simulator/ruler";
import { api, SavedPrinter, SavedSpool } from "../common/api";
import { keys } from "../common/keys";
import { useTell } from "../common/talk";
import { useLinkFeed } from "../printer/link-feed";

export interface Run {
  outcome: TuneOutcome;
  /** What was tried after it: what is read from here on is with that in force. */
  triedAs?: TuneOutcome;
}

export interface GuideProps {
  tuneKey: TuneKey;
  printer: SavedPrinter;
  spool: SavedSpool | null;
  kept: SettingValues;
  /** Firmware values of the last reading. */
  known: Record<string, number>;
}

export type Phase = "heat" | "act" | "cool";

const pick = (values: Record<string, number>, ids: string[]): Record<string, number> =>
  Object.fromEntries(ids.filter((id) => values[id] !== undefined).map((id) => [id, values[id]]));

export function useGuide({ tuneKey, printer, spool, kept, known }: GuideProps) {
  const tune = tuneFor(tuneKey);
  const client = useQueryClient();
  const tell = useTell();
  const about = { printer, spool, kept };
  const [inputs, setInputs] = useState(() => usualInputs(tuneKey, { ...about, values: known }));
  const [typed, setTyped] = useState<Record<string, number>>({});
  const [busy, setBusy] = useState<Phase | "read" | null>(null);
  const [acted, setActed] = useState(false);
  const [readings, setReadings] = useState<Record<string, number>>({});
  const [runs, setRuns] = useState<Run[]>([]);
  const uses = tune.uses({ printer, inputs });
  const values = useMemo(() => ({ ...known, ...typed }), [known, typed]);
  const request: TuneRequest = { ...about, inputs, values };
  const wanted = tune.heat(request);
  // How hot it is is asked while this page wants to know, and never taken for granted.
  const feed = useLinkFeed(printer.id, { all: false, heat: wanted !== null });
  const link = feed.status ?? null;
  const live = link?.state === "open" && !link.halted;
  const heat = { heat: link?.heat ?? null, heatAgeS: link?.heatAgeS ?? null };
  const hot = wanted === null || (live && isHot(wanted, heat, toolOf({ inputs })));
  const fields = tune.readings(request);
  const complete = fields.every(({ key }) => readings[key] !== undefined);

  const during = async (what: Phase | "read", work: () => Promise<void>) => {
    setBusy(what);
    try {
      await work();
    } catch (error) {
      tell.error(error);
    } finally {
      setBusy(null);
    }
  };
  const phase = (which: Phase) =>
    during(which, async () => {
      const body = { printerId: printer.id, tune: tuneKey, inputs, values: pick(values, uses), phase: which };
      const { answers } = await api.post<{ answers: string[] }>("/measure/act", body);
      if (which !== "act") return;
      setActed(true);
      const found = tune.fromAnswers?.(answers);
      if (found) setReadings(found);
    });
  const readFirmware = () =>
    during("read", async () => {
      await api.post("/link/values/read", { printerId: printer.id });
      await client.invalidateQueries({ queryKey: keys.firmware(printer.id) });
      setTyped({});
    });
  const readRuler = async () => {
    try {
      const query = new URLSearchParams({ printerId: String(printer.id) });
      for (const [key, value] of Object.entries(inputs)) query.set(key, String(value));
      const seen = await api.get<RulerReadings>(`/link/ruler?${query.toString()}`);
      const offered = tune.fromRuler?.(seen, request) ?? {};
      setReadings(
        Object.fromEntries(
          fields.filter(({ key }) => offered[key] !== undefined).map(({ key }) => [key, offered[key]]),
        ),
      );
    } catch (error) {
      tell.error(error);
    }
  };
  const query = new URLSearchParams({
    printerId: String(printer.id),
    tune: tuneKey,
    inputs: JSON.stringify(inputs),
    values: JSON.stringify(pick(values, uses)),
  });
  return {
    tune,
    request,
    inputs,
    setInput: (key: string, value: number) => setInputs({ ...inputs, [key]: value }),
    uses,
    values,
    setValue: (id: string, value: number) => setTyped({ ...typed, [id]: value }),
    link,
    live,
    wanted,
    hot,
    heatSaid: wanted === null ? null : sayMeasured(wanted, heat, toolOf({ inputs })),
    lines: actLines(tune, request),
    refusal: tune.refuses?.(printer) ?? null,
    fields,
    readings,
    setReadings,
    result: complete ? tune.sum(request, readings) : null,
    busy,
    acted,
    phase,
    readFirmware,
    readRuler,
    fileAddress: `/api/measure/file?${query.toString()}`,
    runs,
    setRuns,
    takeReading(outcome: TuneOutcome) {
      setRuns([...runs, { outcome }]);
      if (fields.length > 0) setReadings({});
      setActed(false);
    },
  };
}

export type Guide = ReturnType<typeof useGuide>;
