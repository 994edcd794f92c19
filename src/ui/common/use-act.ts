"use client";
import { useCallback, useState } from "react";
import { useTell } from "./talk";

/** One way to press a button that asks the server: busy meanwhile, and what goes wrong is shown. Gives whether it went well. */
export function useAct(): { busy: boolean; act(work: () => Promise<unknown>): Promise<boolean> } {
  const [busy, setBusy] = useState(false);
  const tell = useTell();
  const act = useCallback(
    async (work: () => Promise<unknown>) => {
      setBusy(true);
      try {
        await work();
        return true;
      } catch (error) {
        tell.error(error);
        return false;
      } finally {
        setBusy(false);
      }
    },
    [tell],
  );
  return { busy, act };
}
