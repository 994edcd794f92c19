"use client";
import { useQueryClient } from "@tanstack/react-query";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { Sheet } from "@/core/sheets/sheet";
import type { TrialKindKey } from "@/core/trials";
import type { Trial } from "@/core/trials/trial";
import { api } from "../common/api";
import { keys } from "../common/keys";
import { useTell } from "../common/talk";

/** Makes a trial with its kind's first round, on a piece of one's own where a sheet is named, over the whole range if so asked, and goes to it. */
export function useStartTrial() {
  const router = useRouter();
  const client = useQueryClient();
  const tell = useTell();
  const [starting, setStarting] = useState(false);
  const start = async (
    kind: TrialKindKey,
    printerId: number,
    spoolId: number,
    also: { sheet?: Sheet; whole?: boolean } = {},
  ) => {
    setStarting(true);
    try {
      const { id } = await api.post<Trial>("/trials", { kind, printerId, spoolId, ...also });
      await client.invalidateQueries({ queryKey: keys.trials });
      router.push(`/trials/${id}`);
    } catch (error) {
      tell.error(error);
      setStarting(false);
    }
  };
  return { start, starting };
}
