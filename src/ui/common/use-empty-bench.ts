"use client";
import { useQueryClient } from "@tanstack/react-query";
import { useRouter } from "next/navigation";
import { api } from "./api";
import { useAsk, useTell } from "./talk";
import { useAct } from "./use-act";

/** Asks, puts an empty bench in place of everything there is, and goes to it. */
export function useEmptyBench() {
  const ask = useAsk();
  const tell = useTell();
  const client = useQueryClient();
  const router = useRouter();
  const { busy, act } = useAct();
  const begin = async () => {
    const sure = await ask({
      title: "Begin with an empty bench?",
      content: "All current data is kept as a copy: restore it on Shelf, This program. Links are closed.",
      okText: "Begin",
      isDestructive: true,
    });
    if (!sure) return;
    await act(async () => {
      const { kept } = await api.post<{ kept: string | null }>("/bench/empty");
      await client.invalidateQueries();
      tell.done(kept ? `The bench is empty. The data from before is kept as ${kept}.` : "The bench is empty.");
      router.push("/bench");
    });
  };
  return { begin, busy };
}
