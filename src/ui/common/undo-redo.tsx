"use client";
import styles from "./tab-row.module.css";

interface Props {
  canUndo: boolean;
  canRedo: boolean;
  onUndo(): void;
  onRedo(): void;
}

/** Undo and redo, pale while there is nothing to do. */
export function UndoRedo({ canUndo, canRedo, onUndo, onRedo }: Props) {
  const pale = { opacity: 0.45, cursor: "default" };
  return (
    <span className={styles.views}>
      <button onClick={onUndo} disabled={!canUndo} style={canUndo ? undefined : pale}>
        Undo
      </button>
      <button onClick={onRedo} disabled={!canRedo} style={canRedo ? undefined : pale}>
        Redo
      </button>
    </span>
  );
}
