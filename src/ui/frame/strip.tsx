"use client";
/** Always says which printer and which spool are on the bench, and lets them be changed. */
import type { ReactNode } from "react";
import { spoolTitle } from "@/core/shelf/spool-title";
import { Chooser } from "../common/chooser";
import { LinkStrip } from "../printer/link-strip";
import { useBenchPair, usePrinters, useSetBench, useSpools } from "../common/queries";
import { useTell } from "../common/talk";
import styles from "./frame.module.css";

/** @param quick what stands at the foot of the rail where there is one; on a narrow screen it stays in sight with the stop */
export function Strip({ quick }: { quick: ReactNode }) {
  const { printer, spool } = useBenchPair();
  const printers = usePrinters().data ?? [];
  const spools = useSpools().data ?? [];
  const setBench = useSetBench();
  const tell = useTell();
  const choose = (bench: { printerId?: number; spoolId?: number }) => setBench.mutate(bench, { onError: tell.error });
  return (
    <div className={styles.strip}>
      <div className={styles.pair} role="region" aria-label="On the bench">
        <span>On the bench</span>
        {printer && (
          <Chooser
            plain
            choices={printers.map(({ id, name, nozzleMm }) => ({ key: id, label: `${name}, ${nozzleMm} mm nozzle` }))}
            onChoose={(printerId) => choose({ printerId })}
          >
            <b>{printer.name}</b> &nbsp;{printer.nozzleMm} mm nozzle
          </Chooser>
        )}
        {spool && (
          <Chooser
            plain
            choices={spools.map((one) => ({ key: one.id, label: spoolTitle(one) }))}
            onChoose={(spoolId) => choose({ spoolId })}
          >
            <i className="swatch" style={{ background: spool.colourHex }} />
            <b>{spoolTitle(spool)}</b> &nbsp;label {spool.labelMinC}–{spool.labelMaxC} °C
          </Chooser>
        )}
        {printer === null && <b>no printer yet</b>}
        {spool === null && <b>no spool yet</b>}
      </div>
      <div className={styles.links} role="region" aria-label="The printer’s link">
        <span className={styles.quick}>{quick}</span>
        <LinkStrip />
      </div>
    </div>
  );
}
