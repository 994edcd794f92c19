"use client";
import { spoolTitle } from "@/core/shelf/spool-title";
import { Choice } from "./choice";
import { usePrinters, useSpools } from "./queries";

/** A printer and a spool from the shelf. */
export function PairFields(props: {
  printerId: number | null;
  spoolId: number | null;
  onPrinter(id: number): void;
  onSpool(id: number): void;
}) {
  const printers = usePrinters().data ?? [];
  const spools = useSpools().data ?? [];
  return (
    <>
      <label>
        <span className="dim">Printer</span>
        <Choice
          label="Printer"
          className="whole"
          value={props.printerId ?? undefined}
          onChange={props.onPrinter}
          options={printers.map(({ id, name }) => ({ value: id, label: name }))}
        />
      </label>
      <label>
        <span className="dim">Spool</span>
        <Choice
          label="Spool"
          className="whole"
          value={props.spoolId ?? undefined}
          onChange={props.onSpool}
          options={spools.map((one) => ({
            value: one.id,
            label: `${spoolTitle(one)}, label ${one.labelMinC}–${one.labelMaxC} °C`,
          }))}
        />
      </label>
    </>
  );
}
