"use client";
/** Always says which printer and which spool are on the bench, and lets them be changed. */
import { spoolTitle } from "@/core/shelf/spool-title";
import { Chooser } from "../common/chooser";
import { LinkStrip } from "../printer/link-strip";
import { useBenchPair, usePrinters, useSetBench, useSpools } from "../common/queries";
import { useTell } from "../common/talk";
import styles from "./frame.module.css";

export function Strip() {
  const { printer, spool } = useBenchPair();
  const printers = usePrinters().data ?? [];
  const spools = useSpools().data ?? [];
  const setBench = useSetBench();
  const tell = useTell();
  const choose = (bench: { printerId?: number; spoolId?: number }) => setBench.mutate(bench, { onError: tell.error });
  return (
    <div className={styles.strip}>
      <div className={styles.pair} role="region" aria-label="On the bench">
        <span className="wide-only">On the bench</span>
        {printer && (
          <Chooser
            plain
            choices={printers.map(({ id, name, nozzleMm }) => ({ key: id, label: `${name}, ${nozzleMm} mm nozzle` }))}
            onChoose={(printerId) => choose({ printerId })}
          >
            <b>{printer.name}</b> <span className="wide-only">&nbsp;{printer.nozzleMm} mm nozzle</span>
          </Chooser>
        )}
        {spool && (
          <Chooser
            plain
            choices={spools.map((one) => ({ key: one.id, label: spoolTitle(one) }))}
            onChoose={(spoolId) => choose({ spoolId })}
          >
            <i className="swatch" style={{ background: spool.colourHex }} />
            <b>{spoolTitle(spool)}</b>{" "}
            <span className="wide-only">
              &nbsp;label {spool.labelMinC}–{spool.labelMaxC} °C
            </span>
          </Chooser>
        )}
        {printer === null && <b>no printer yet</b>}
        {spool === null && <b>no spool yet</b>}
      </div>
      <div className={styles.links} role="region" aria-label="The printer’s link">
        <LinkStrip />
      </div>
    </div>
  );
}
