"use client";
/** What is done with all that is known of a pair: taken over to or from another, written down, asked anew. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { spoolTitle } from "@/core/shelf/spool-title";
import { api, KeptValue, SavedPrinter, SavedSpool } from "../common/api";
import { Choice } from "../common/choice";
import { keys } from "../common/keys";
import { LinkButton } from "../common/link-button";
import { usePrinters, useSpools } from "../common/queries";
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
      tell.undo("Everything is to be asked again; what is kept stays until it is answered anew.", async () => {
        await api.remove(`/bench/anew?${query}`);
        await refresh();
      });
    });
  return (
    <section className={styles.tools} aria-label="All that is known of this pair">
      {hasKept && (
        <>
          <LinkButton href={`/shelf/label?${query}`}>Label for the spool</LinkButton>
          <Button loading={busy} onClick={() => void askAnew()}>
            Ask everything again
          </Button>
        </>
      )}
      <CarryOver printer={printer} spool={spool} onDone={refresh} />
    </section>
  );
}

/** Pairs with the same material that know something: what they know can be taken over as a start. */
function CarryOver({ printer, spool, onDone }: Omit<Props, "hasKept"> & { onDone(): Promise<unknown> }) {
  const tell = useTell();
  const all = useQuery({ queryKey: keys.allKept, queryFn: () => api.get<KeptValue[]>("/kept") }).data ?? [];
  const printers = usePrinters().data ?? [];
  const spools = useSpools().data ?? [];
  const here = new Set(
    all.filter((one) => one.printerId === printer.id && one.spoolId === spool.id).map(({ setting }) => setting),
  );
  const counts = new Map<string, number>();
  for (const one of all) {
    if (here.has(one.setting) || (one.printerId === printer.id && one.spoolId === spool.id)) continue;
    if (spools.find(({ id }) => id === one.spoolId)?.material !== spool.material) continue;
    const key = `${one.printerId} ${one.spoolId}`;
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  const options = [...counts].flatMap(([value, count]) => {
    const [printerId, spoolId] = value.split(" ").map(Number);
    const [from, of] = [printers.find(({ id }) => id === printerId), spools.find(({ id }) => id === spoolId)];
    const said = count === 1 ? "one value" : `${count} values`;
    return from && of ? [{ value, label: `${said} of ${spoolTitle(of)} on ${from.name}` }] : [];
  });
  if (options.length === 0) return null;
  const carry = async (key: string) => {
    const [printerId, spoolId] = key.split(" ").map(Number);
    try {
      const added = await api.post<KeptValue[]>("/kept/carry", {
        from: { printerId, spoolId },
        printerId: printer.id,
        spoolId: spool.id,
      });
      await onDone();
      tell.undo("Taken over as a start: not tried here yet.", async () => {
        for (const { id } of added) await api.remove(`/kept/${id}`);
        await onDone();
      });
    } catch (error) {
      tell.error(error);
    }
  };
  return (
    <Choice
      label="Take values over from another pair"
      hint="Take values over …"
      value={null}
      options={options}
      onChange={(key) => void carry(String(key))}
    />
  );
}
