"use client";
/** On or off, at once. */
import styles from "./toggle.module.css";

interface Props {
  id?: string;
  /** What is switched; left out where a label stands beside. */
  label?: string;
  checked: boolean;
  disabled?: boolean;
  onChange(checked: boolean): void;
}

export function Toggle({ id, label, checked, disabled, onChange }: Props) {
  return (
    <input
      id={id}
      type="checkbox"
      role="switch"
      className={styles.toggle}
      aria-label={label}
      checked={checked}
      disabled={disabled}
      onChange={(event) => onChange(event.target.checked)}
    />
  );
}
