"use client";
import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { useRef } from "react";
import { Material } from "@/core/material/materials";
import { Printer, printerSchema } from "@/core/shelf/printer";
import { figuresOf, Spool, spoolSchema } from "@/core/shelf/spool";
import { Loading } from "../common/loading";
import { api, SavedPrinter, SavedSpool } from "../common/api";
import { usePrinters, useSpools } from "../common/queries";
import { newPrinter, newSpool } from "./drafts";
import { printerFields, spoolFields } from "./fields";
import { RecordForm } from "./record-form";
import { storeRecord } from "./store-record";
import { keys } from "../common/keys";

/** Adds a printer (`id` null) or changes one. */
export function PrinterPage({ id }: { id: number | null }) {
  const printers = usePrinters().data;
  const seen = useRef<SavedPrinter | null>(null);
  const client = useQueryClient();
  if (id !== null && !printers) return <Loading />;
  const printer = printers?.find((one) => one.id === id);
  // The form keeps what it was opened with; what is stored is held against that.
  if (printer && !seen.current) seen.current = printer;
  if (id !== null && !printer) return <Missing what="printer" />;
  return (
    <RecordForm<Printer>
      key={id}
      title={printer ? printer.name : "New printer"}
      groups={printerFields}
      schema={printerSchema}
      initial={printer ?? newPrinter}
      saveText={printer ? "Save" : "Add the printer"}
      back="/shelf"
      onSave={async (record) => {
        const before = seen.current ?? printer;
        if (before) await storeRecord("/printers", before, record, (now) => (seen.current = now));
        else await api.post("/printers", record);
        await client.invalidateQueries({ queryKey: keys.printers });
        await client.invalidateQueries({ queryKey: keys.bench });
      }}
    />
  );
}

/** Adds a spool (`id` null) or changes one. */
export function SpoolPage({ id }: { id: number | null }) {
  const spools = useSpools().data;
  const seen = useRef<SavedSpool | null>(null);
  const client = useQueryClient();
  if (id !== null && !spools) return <Loading />;
  const spool = spools?.find((one) => one.id === id);
  if (spool && !seen.current) seen.current = spool;
  if (id !== null && !spool) return <Missing what="spool" />;
  return (
    <RecordForm<Spool>
      key={id}
      title={spool ? spool.name : "New spool"}
      groups={spoolFields}
      schema={spoolSchema}
      initial={spool ?? newSpool}
      saveText={spool ? "Save" : "Add the spool"}
      back="/shelf"
      onField={(draft, name) =>
        name === "material" && !spool ? { ...draft, ...figuresOf(draft.material as Material) } : draft
      }
      onSave={async (record) => {
        const before = seen.current ?? spool;
        if (before) await storeRecord("/spools", before, record, (now) => (seen.current = now));
        else await api.post("/spools", record);
        await client.invalidateQueries({ queryKey: keys.spools });
        await client.invalidateQueries({ queryKey: keys.bench });
      }}
    />
  );
}

function Missing({ what }: { what: string }) {
  return (
    <div className="empty" role="alert">
      <h1>This {what} is not on the shelf</h1>
      <p>It may have been removed.</p>
      <Button href="/shelf">To the shelf</Button>
    </div>
  );
}
