"use client";
/** The frame round a record's fields: its name, storing it, and the way back. */
import { Button } from "antd";
import { useRouter } from "next/navigation";
import { ReactNode, useState } from "react";
import { ApiError } from "../common/api";
import { useTell } from "../common/talk";
import type { RecordDraft } from "./record-draft";
import styles from "./record-form.module.css";

interface Props<T> {
  title: string;
  form: RecordDraft<T>;
  saveText: string;
  back: string;
  onSave(record: T): Promise<void>;
  children: ReactNode;
}

export function RecordForm<T>({ title, form, saveText, back, onSave, children }: Props<T>) {
  const [saving, setSaving] = useState(false);
  const router = useRouter();
  const tell = useTell();
  const save = async () => {
    if (!form.record) return;
    setSaving(true);
    try {
      await onSave(form.record);
      router.push(back);
    } catch (error) {
      if (error instanceof ApiError) form.refuse(error.field, error.message);
      tell.error(error);
      setSaving(false);
    }
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <div className={`page-head ${styles.head}`}>
        <h1>{title}</h1>
        <span className={styles.acts}>
          <Button onClick={() => router.push(back)}>Back without saving</Button>
          <Button className="go" htmlType="submit" loading={saving} disabled={!form.record}>
            {saveText}
          </Button>
        </span>
      </div>
      <div className={styles.groups}>{children}</div>
    </form>
  );
}
