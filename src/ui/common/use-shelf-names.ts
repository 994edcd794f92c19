"use client";
/** What the printers and spools of a list are called, and the choices to filter it by them. */
import { useMemo } from "react";
import { spoolTitle } from "@/core/shelf/spool-title";
import { usePrinters, useSpools } from "./queries";

export function useShelfNames() {
  const printers = usePrinters().data;
  const spools = useSpools().data;
  return useMemo(() => {
    const ofPrinter = new Map(printers?.map(({ id, name }) => [id, name]));
    const ofSpool = new Map(spools?.map((spool) => [spool.id, spoolTitle(spool)]));
    const optionsOf = (names: Map<number, string>) => [...names].map(([value, label]) => ({ value, label }));
    return {
      printer: (id: number) => ofPrinter.get(id) ?? "printer removed",
      spool: (id: number) => ofSpool.get(id) ?? "spool removed",
      byPrinter: {
        label: "Any printer",
        of: ({ printerId }: { printerId: number | null }) => printerId,
        options: optionsOf(ofPrinter),
      },
      bySpool: { label: "Any spool", of: ({ spoolId }: { spoolId: number }) => spoolId, options: optionsOf(ofSpool) },
    };
  }, [printers, spools]);
}
