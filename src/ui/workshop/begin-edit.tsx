"use client";
/** A new edit is begun by saying what shall change: typed, or picked. */
import { Button } from "antd";
import { RefObject, useState } from "react";
import { TextField } from "../common/text-field";
import styles from "./edit-board.module.css";
import { SaidKind, saidKinds, sentenceFor } from "./sentences";

interface Props {
  field: RefObject<HTMLInputElement | null>;
  /** Everything that can be begun stands there at once; else when the field is gone to. */
  isOpen: boolean;
  onBegin(kind: SaidKind): void;
  onPlan(): void;
  /** Goes to where another file is laid beside this one; null where that is not offered. */
  onMerge: (() => void) | null;
}

/** What people call it. */
const MERGE_WORDS = "another file beside it merge join combine together two materials colours tools";

export function BeginEdit({ field, isOpen, onBegin, onPlan, onMerge }: Props) {
  const [said, setSaid] = useState("");
  const words = said.toLowerCase().split(/\s+/).filter(Boolean);
  const fits = saidKinds.filter((kind) => {
    const all = `${sentenceFor(kind).begin} ${sentenceFor(kind).words}`.toLowerCase();
    return words.every((word) => all.includes(word));
  });
  const isMerge = onMerge !== null && words.every((word) => MERGE_WORDS.includes(word));
  const merge = () => {
    setSaid("");
    onMerge?.();
  };
  const begin = (kind: SaidKind) => {
    setSaid("");
    // What can be begun goes with the focus.
    if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
    onBegin(kind);
  };
  return (
    <div className={styles.begin} data-open={isOpen || undefined} role="group" aria-label="Begin an edit">
      <TextField
        ref={field}
        aria-label="What shall change?"
        placeholder="What shall change?"
        value={said}
        maxLength={60}
        onChange={setSaid}
        onKeyDown={({ key }) => {
          if (key !== "Enter") return;
          if (fits.length > 0) begin(fits[0]);
          else if (isMerge) merge();
        }}
      />
      <div className={styles.choices}>
        {fits.map((kind) => (
          <Button key={kind} size="small" onClick={() => begin(kind)}>
            {sentenceFor(kind).begin}
          </Button>
        ))}
        {words.length === 0 && (
          <Button size="small" onClick={onPlan}>
            Values by height
          </Button>
        )}
        {isMerge && (
          <Button size="small" onClick={merge}>
            Another file beside it
          </Button>
        )}
        {fits.length === 0 && !isMerge && (
          <span className="dim">No edit is called that: “Lines with …” finds any text.</span>
        )}
      </div>
    </div>
  );
}
