"use client";
import { useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { Material } from "@/core/material/materials";
import { Printer } from "@/core/shelf/printer";
import { figuresOf, Spool } from "@/core/shelf/spool";
import { Loading } from "../common/loading";
import { api, SavedPrinter, SavedSpool } from "../common/api";
import { usePrinters, useSpools } from "../common/queries";
import { newSpool } from "./drafts";
import { printerFields, spoolFields } from "./fields";
import { useRecordDraft } from "./record-draft";
import { RecordFields } from "./record-fields";
import { RecordForm } from "./record-form";
import { printerSchema, spoolSchema } from "./schemas";
import { storeRecord } from "./store-record";
import { keys } from "../common/keys";
import { LinkButton } from "../common/link-button";

/** Changes a printer. */
export function PrinterPage({ id }: { id: number }) {
  const printers = usePrinters().data;
  const printer = printers?.find((one) => one.id === id);
  if (!printers) return <Loading />;
  return printer ? <PrinterForm key={id} printer={printer} /> : <Missing what="printer" />;
}

function PrinterForm({ printer }: { printer: SavedPrinter }) {
  // The form keeps what it was opened with; what is stored is held against that.
  const seen = useRef(printer);
  const client = useQueryClient();
  const form = useRecordDraft<Printer>({ groups: printerFields, schema: printerSchema, initial: printer });
  return (
    <RecordForm<Printer>
      title={printer.name}
      form={form}
      saveText="Save"
      back="/shelf"
      onSave={async (record) => {
        await storeRecord("/printers", seen.current, record, (now) => (seen.current = now));
        await client.invalidateQueries({ queryKey: keys.printers });
        await client.invalidateQueries({ queryKey: keys.bench });
      }}
    >
      <RecordFields groups={printerFields} form={form} />
    </RecordForm>
  );
}

/** Adds a spool (`id` null) or changes one. */
export function SpoolPage({ id }: { id: number | null }) {
  const spools = useSpools().data;
  if (id === null) return <SpoolForm spool={null} />;
  if (!spools) return <Loading />;
  const spool = spools.find((one) => one.id === id);
  return spool ? <SpoolForm key={id} spool={spool} /> : <Missing what="spool" />;
}

function SpoolForm({ spool }: { spool: SavedSpool | null }) {
  const seen = useRef(spool);
  const client = useQueryClient();
  const form = useRecordDraft<Spool>({
    groups: spoolFields,
    schema: spoolSchema,
    initial: spool ?? newSpool,
    onField: (draft, name) =>
      name === "material" && !spool ? { ...draft, ...figuresOf(draft.material as Material) } : draft,
  });
  return (
    <RecordForm<Spool>
      title={spool ? spool.name : "New spool"}
      form={form}
      saveText={spool ? "Save" : "Add the spool"}
      back="/shelf"
      onSave={async (record) => {
        if (seen.current) await storeRecord("/spools", seen.current, record, (now) => (seen.current = now));
        else await api.post("/spools", record);
        await client.invalidateQueries({ queryKey: keys.spools });
        await client.invalidateQueries({ queryKey: keys.bench });
      }}
    >
      <RecordFields groups={spoolFields} form={form} />
    </RecordForm>
  );
}

function Missing({ what }: { what: string }) {
  return (
    <div className="empty" role="alert">
      <h1>This {what} is not on the shelf</h1>
      <p>It may have been removed.</p>
      <LinkButton href="/shelf">To the shelf</LinkButton>
    </div>
  );
}
