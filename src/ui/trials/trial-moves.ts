"use client";
import { useEffect, useState } from "react";
import type { TrialClient } from "@/workers/trial-client";
import type { TrialMoves, TrialView } from "@/workers/trial-messages";

/** The moves of the trial as the worker has built it; null until they come, and while nobody looks (`client` null). */
export function useTrialMoves(client: TrialClient | null, view: TrialView | null): TrialMoves | null {
  const [moves, setMoves] = useState<TrialMoves | null>(null);
  useEffect(() => {
    let current = true;
    void client?.moves().then((next) => current && next && setMoves(next));
    return () => {
      current = false;
    };
  }, [client, view]);
  return moves;
}
