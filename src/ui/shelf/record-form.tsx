"use client";
/** The frame round a record's fields: its name, storing it, and the way back. */
import { Button } from "antd";
import { useRouter } from "next/navigation";
import { ReactNode, useEffect, useRef, useState } from "react";
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
  const frame = useRef<HTMLFormElement>(null);
  const router = useRouter();
  const tell = useTell();
  const [stopped, setStopped] = useState(0);
  useEffect(() => {
    if (stopped === 0) return;
    // What is wrong stands beside its field; the first of them is where one goes on, folded away or not.
    const wrong = frame.current?.querySelector<HTMLElement>("[aria-invalid=true]");
    wrong?.closest("details")?.setAttribute("open", "");
    wrong?.focus();
  }, [stopped]);
  const save = async () => {
    const record = await form.record();
    if (!record) {
      setStopped(stopped + 1);
      return;
    }
    setSaving(true);
    try {
      await onSave(record);
      router.push(back);
    } catch (error) {
      if (error instanceof ApiError) form.refuse(error.field, error.message);
      tell.error(error);
      setSaving(false);
    }
  };
  return (
    <form
      ref={frame}
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <div className={`page-head ${styles.head}`}>
        <h1>{title}</h1>
        <span className={styles.acts}>
          <Button onClick={() => router.push(back)}>Back without saving</Button>
          <Button className="go" htmlType="submit" loading={saving}>
            {saveText}
          </Button>
        </span>
      </div>
      <div className={styles.groups}>{children}</div>
    </form>
  );
}
