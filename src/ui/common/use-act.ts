"use client";
import { useCallback, useState } from "react";
import { useTell } from "./queries";

/** One way to press a button that asks the server: busy meanwhile, and what goes wrong is shown. Gives whether it went well. */
export function useAct(): { busy: boolean; act(work: () => Promise<unknown>): Promise<boolean> } {
  const [busy, setBusy] = useState(false);
  const tell = useTell();
  const { error: show } = tell;
  const act = useCallback(
    async (work: () => Promise<unknown>) => {
      setBusy(true);
      try {
        await work();
        return true;
      } catch (error) {
        show(error);
        return false;
      } finally {
        setBusy(false);
      }
    },
    // The messages are those of the page, whichever render they come from.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [],
  );
  return { busy, act };
}
