"use client";
/** What a page hears of one printer: its lines, its temperatures and its state, from the server's events. */
import { useCallback, useEffect, useRef, useState } from "react";
import type { HeatSample, LinkEvent, LinkStatus } from "@/core/link/state";
import { api } from "../common/api";
import { useLinks } from "./link-queries";

/** Lines a page holds; older ones are read from the day's log. */
const MOST_LINES = 5000;
const MOST_SAMPLES = 3600;
/** The server says something at least every 1.5 s; silent for longer, it is gone. */
const SILENT_AFTER_MS = 4000;

export interface LinkFeed {
  lines: LinkEvent[];
  samples: HeatSample[];
  /** Undefined until the first word; null for a printer that is not linked. */
  status: LinkStatus | null | undefined;
  /** Cuchara itself does not answer. */
  deaf: boolean;
  clear(): void;
}

/** Listens to a printer. `all` brings the lines of jobs too; `heat` asks the printer for temperatures while the page listens. */
export function useLinkFeed(printerId: number, { all, heat }: { all: boolean; heat: boolean }): LinkFeed {
  const [lines, setLines] = useState<LinkEvent[]>([]);
  const [samples, setSamples] = useState<HeatSample[]>([]);
  // What is known of all links already stands until this one speaks for itself.
  const known = useLinks().data;
  const [heardStatus, setStatus] = useState<LinkStatus | null | undefined>(undefined);
  const status =
    heardStatus === undefined && known ? (known.find((link) => link.printerId === printerId) ?? null) : heardStatus;
  const [deaf, setDeaf] = useState(false);
  const lastId = useRef<number | null>(null);
  const seen = useRef({ printerId, all });

  useEffect(() => {
    // With other lines wanted the page begins anew; else it goes on behind the last line it has.
    if (seen.current.printerId !== printerId || seen.current.all !== all) {
      lastId.current = null;
      setLines([]);
    }
    seen.current = { printerId, all };
    const query = new URLSearchParams({ printerId: String(printerId) });
    if (all) query.set("all", "1");
    if (heat) query.set("heat", "1");
    if (lastId.current !== null) query.set("after", String(lastId.current));
    const source = new EventSource(`/api/link/events?${query.toString()}`);
    let heard = Date.now();
    const on = <T>(name: string, take: (data: T) => void) =>
      source.addEventListener(name, (event) => {
        heard = Date.now();
        setDeaf(false);
        take(JSON.parse((event as MessageEvent<string>).data) as T);
      });
    on<LinkEvent[]>("lines", (fresh) => {
      lastId.current = fresh[fresh.length - 1].id;
      setLines((now) => [...now, ...fresh].slice(-MOST_LINES));
    });
    on<LinkStatus | null>("status", setStatus);
    on<HeatSample[]>("heat", (fresh) =>
      setSamples((now) => [...now.filter(({ index }) => index < fresh[0].index), ...fresh].slice(-MOST_SAMPLES)),
    );
    on("beat", () => undefined);
    const look = setInterval(() => setDeaf(Date.now() - heard > SILENT_AFTER_MS), 1000);
    void api.get<HeatSample[]>(`/link/heat?printerId=${printerId}`).then(setSamples, () => undefined);
    return () => {
      source.close();
      clearInterval(look);
    };
  }, [printerId, all, heat]);

  const clear = useCallback(() => setLines([]), []);
  return { lines, samples, status, deaf, clear };
}
