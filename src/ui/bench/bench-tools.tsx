"use client";
/** What is done with all that is known of a pair: written down, asked anew, held beside what is known of all others. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { api, KeptValue, SavedPrinter, SavedSpool } from "../common/api";
import { keys } from "../common/keys";
import { LinkButton } from "../common/link-button";
import { useTell } from "../common/talk";
import { useAct } from "../common/use-act";
import styles from "./bench-page.module.css";

interface Props {
  printer: SavedPrinter;
  spool: SavedSpool;
  hasKept: boolean;
}

export function BenchTools({ printer, spool, hasKept }: Props) {
  const client = useQueryClient();
  const tell = useTell();
  const { busy, act } = useAct();
  const hasAny =
    (useQuery({ queryKey: keys.allKept, queryFn: () => api.get<KeptValue[]>("/kept") }).data ?? []).length > 0;
  const query = `printerId=${printer.id}&spoolId=${spool.id}`;
  const refresh = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: keys.kept }),
      client.invalidateQueries({ queryKey: ["bench-rows"] }),
    ]);
  const askAnew = () =>
    act(async () => {
      await api.post(`/bench/anew?${query}`);
      await refresh();
      tell.undo("Everything is marked to be asked again. Kept values stay until there is a new answer.", async () => {
        await api.remove(`/bench/anew?${query}`);
        await refresh();
      });
    });
  return (
    <section className={styles.tools} aria-label="All that is known of this pair">
      <LinkButton href="/trials/new">Choose by the piece</LinkButton>
      {hasKept && (
        <>
          <LinkButton href={`/shelf/label?${query}`}>Label for the spool</LinkButton>
          <Button loading={busy} onClick={() => void askAnew()}>
            Ask everything again
          </Button>
        </>
      )}
      {hasAny && <LinkButton href="/bench/known">What this bench knows</LinkButton>}
    </section>
  );
}
