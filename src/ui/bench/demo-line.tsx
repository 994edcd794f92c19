"use client";
/** On the demo's bench: what can be tried first, and the way to a bench of one's own. */
import { useQuery } from "@tanstack/react-query";
import { api } from "../common/api";
import { keys } from "../common/keys";
import { useEmptyBench } from "../common/use-empty-bench";
import styles from "./bench-page.module.css";

/** Whether the data are the demo's, as long as nobody has begun anew. */
const useIsDemo = () =>
  useQuery({
    queryKey: keys.isDemo,
    queryFn: async () => (await api.get<{ preferences: { isDemo: boolean } }>("/program")).preferences.isDemo,
    staleTime: Infinity,
  }).data ?? false;

/** @param waiting what was printed and waits to be read, if anything does */
export function DemoLine({ waiting }: { waiting: string | undefined }) {
  const isDemo = useIsDemo();
  const { begin, busy } = useEmptyBench();
  if (!isDemo) return null;
  return (
    <p className={styles.demo}>
      This demo bench has been in use for weeks.{" "}
      {waiting ? `Try reading the print for “${waiting}”, or ` : "Look around, or "}
      <button className="link-button" disabled={busy} onClick={() => void begin()}>
        begin with an empty bench
      </button>
      .
    </p>
  );
}
