"use client";
/** A printer that is new on the shelf: it tells of itself, a person answers five questions, the rest has good usual values. */
import { useQueryClient } from "@tanstack/react-query";
import { useId } from "react";
import { dialects } from "@/core/machine/dialects";
import { dialectOfFan, figuresOfPath, pathOf } from "@/core/shelf/five-questions";
import { Printer } from "@/core/shelf/printer";
import { Segments } from "../common/segments";
import { api } from "../common/api";
import { keys } from "../common/keys";
import { TextField } from "../common/text-field";

import { newPrinter } from "./drafts";
import { Field, printerFields } from "./fields";
import styles from "./new-printer.module.css";
import { AskThePrinter } from "./opened-later";
import { RecordDraft, useRecordDraft } from "./record-draft";
import { RecordField, RecordFields } from "./record-fields";
import { printerSchema } from "./schemas";
import { RecordForm } from "./record-form";

export function NewPrinterPage() {
  const client = useQueryClient();
  const form = useRecordDraft<Printer>({ groups: printerFields, schema: printerSchema, initial: newPrinter });
  return (
    <RecordForm<Printer>
      title="New printer"
      form={form}
      saveText="Add the printer"
      back="/shelf"
      onSave={async (record) => {
        await api.post("/printers", record);
        await client.invalidateQueries({ queryKey: keys.printers });
        await client.invalidateQueries({ queryKey: keys.bench });
      }}
    >
      <AskThePrinter form={form} />
      <Questions form={form} />
      <details className={styles.rest}>
        <summary>Everything else: usual values, and what the printer reported</summary>
        <div className={styles.groups}>
          <RecordFields groups={printerFields} form={form} />
        </div>
      </details>
    </RecordForm>
  );
}

const fieldNamed = new Map<string, Field<Printer>>(
  printerFields.flatMap(({ fields }) => fields.map((field) => [field.name, field] as const)),
);

function Questions({ form }: { form: RecordDraft<Printer> }) {
  const now = form.read as Printer;
  const ask = (...names: (keyof Printer)[]) =>
    names
      .map((name) => fieldNamed.get(name)!)
      .filter(({ when }) => !when || when(now))
      .map((field) => <RecordField key={field.name} field={field} form={form} />);
  const nameId = useId();
  const nameProblem = form.problems.get("name");
  return (
    <section className="card" aria-label="Five questions">
      <h2>What it doesn't report: five questions</h2>
      <div className={styles.name}>
        <label htmlFor={nameId} className="dim">
          Name
        </label>
        <TextField
          id={nameId}
          value={String(form.draft.name ?? "")}
          placeholder="As you call it"
          wrong={nameProblem !== undefined}
          onChange={(name) => form.set({ name })}
        />
        {nameProblem && (
          <div className="field-error" role="alert">
            {nameProblem}
          </div>
        )}
      </div>
      <ol className={styles.questions}>
        <li>
          <h3>How large is the bed?</h3>
          <div className={styles.answers}>{ask("bedShape", "bedWidthMm", "bedDepthMm", "buildHeightMm")}</div>
        </li>
        <li>
          <h3>Where is X0 Y0?</h3>
          <div className={styles.answers}>{ask("bedOrigin")}</div>
        </li>
        <li>
          <h3>Which nozzle is in it?</h3>
          <div className={styles.answers}>{ask("nozzleMm")}</div>
        </li>
        <li>
          <h3>How far does the filament run?</h3>
          <Segments
            label="Filament path"
            value={pathOf({ retractionMm: Number(now.retractionMm) })}
            options={[
              { value: "short", label: "Short: the drive sits on the head" },
              { value: "long", label: "Long: a tube from the frame" },
            ]}
            onChange={(path) => form.set(figuresOfPath(path, { retractionMm: Number(now.retractionMm) }))}
          />
        </li>
        <li>
          <h3>What does the part fan do?</h3>
          <Segments
            label="Part fan"
            value={!dialects[now.dialect].fanHasDuty}
            options={[
              { value: false, label: "It has speeds" },
              { value: true, label: "It is only on or off" },
            ]}
            onChange={(onOff) => form.set({ dialect: dialectOfFan(onOff, now.dialect) })}
          />
        </li>
      </ol>
    </section>
  );
}
