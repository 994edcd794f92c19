"use client";
/** Always says which printer and which spool are on the bench, and lets them be changed. */
import { Dropdown } from "antd";
import { spoolTitle } from "@/core/shelf/spool";
import { LinkStrip } from "../printer/link-strip";
import { useBenchPair, usePrinters, useSetBench, useSpools, useTell } from "../common/queries";

export function Strip() {
  const { printer, spool } = useBenchPair();
  const printers = usePrinters().data ?? [];
  const spools = useSpools().data ?? [];
  const setBench = useSetBench();
  const tell = useTell();
  const choose = (bench: { printerId?: number; spoolId?: number }) => setBench.mutate(bench, { onError: tell.error });
  return (
    <div className="strip" role="region" aria-label="On the bench">
      <span>On the bench</span>
      {printer && (
        <Dropdown
          trigger={["click"]}
          menu={{
            items: printers.map(({ id, name, nozzleMm }) => ({ key: id, label: `${name}, ${nozzleMm} mm nozzle` })),
            onClick: ({ key }) => choose({ printerId: Number(key) }),
          }}
        >
          <button className="pick" aria-haspopup="menu">
            <b>{printer.name}</b> &nbsp;{printer.nozzleMm} mm nozzle
          </button>
        </Dropdown>
      )}
      {spool && (
        <Dropdown
          trigger={["click"]}
          menu={{
            items: spools.map((one) => ({ key: one.id, label: spoolTitle(one) })),
            onClick: ({ key }) => choose({ spoolId: Number(key) }),
          }}
        >
          <button className="pick" aria-haspopup="menu">
            <i className="swatch" style={{ background: spool.colourHex }} />
            <b>{spoolTitle(spool)}</b> &nbsp;label {spool.labelMinC}–{spool.labelMaxC} °C
          </button>
        </Dropdown>
      )}
      {printer === null && <b>no printer yet</b>}
      {spool === null && <b>no spool yet</b>}
      <LinkStrip />
    </div>
  );
}
