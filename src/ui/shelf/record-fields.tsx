"use client";
/** The groups of a record's fields, one card a group. */
import dayjs from "dayjs";
import { FieldInput } from "./field-input";
import type { Field, FieldGroup } from "./fields";
import type { RecordDraft } from "./record-draft";
import styles from "./record-form.module.css";

/** One field of the record, as it stands in the draft. */
export function RecordField<T>({ field, form }: { field: Field<T>; form: RecordDraft<T> }) {
  const { firmwareOwn } = form.draft as { firmwareOwn?: Record<string, string> };
  const at = firmwareOwn?.[field.name];
  const help = at === undefined ? field.help : `the firmware’s own, read ${dayjs(at).format("D MMM YYYY")}`;
  return (
    <FieldInput
      field={{ ...field, help }}
      value={form.draft[field.name]}
      problem={form.problems.get(field.name)}
      onChange={(value) => form.set({ [field.name]: value })}
    />
  );
}

export function RecordFields<T>({ groups, form }: { groups: FieldGroup<T>[]; form: RecordDraft<T> }) {
  return groups.map(({ title, fields }) => (
    <section key={title} className="card" aria-label={title}>
      <h2>{title}</h2>
      <div className={styles.fields}>
        {fields
          .filter(({ when }) => !when || when(form.read as T))
          .map((field) => (
            <RecordField key={field.name} field={field} form={form} />
          ))}
      </div>
    </section>
  ));
}
