"use client";
/** Fields for text: the browser's own, in the house's look. A page that only shows them needs no script of a library for it. */
import { ComponentPropsWithRef } from "react";
import styles from "./text-field.module.css";

interface Own {
  /** What is wrong with the text is said elsewhere; here it is only marked. */
  wrong?: boolean;
  onChange(text: string): void;
}

interface FieldProps extends Own, Omit<ComponentPropsWithRef<"input">, "onChange"> {
  /** What stands behind the text, like a unit. */
  unit?: string;
  /** As part of the page's own words, without a box. */
  plain?: boolean;
}

/** One line of text. */
export function TextField({ wrong = false, unit, plain = false, className = "", onChange, ...rest }: FieldProps) {
  return (
    <span className={`${plain ? styles.plain : styles.box} ${wrong ? styles.wrong : ""} ${className}`}>
      <input {...rest} aria-invalid={wrong || undefined} onChange={(event) => onChange(event.target.value)} />
      {unit && <span className={styles.unit}>{unit}</span>}
    </span>
  );
}

interface AreaProps extends Own, Omit<ComponentPropsWithRef<"textarea">, "onChange" | "rows"> {
  leastRows?: number;
  mostRows: number;
}

/** Several lines of text; grows with them. */
export function TextArea({ wrong = false, leastRows = 1, mostRows, className = "", onChange, ...rest }: AreaProps) {
  const rows = Math.min(mostRows, Math.max(leastRows, String(rest.value ?? "").split("\n").length));
  return (
    <textarea
      {...rest}
      rows={rows}
      className={`${styles.area} ${wrong ? styles.wrong : ""} ${className}`}
      aria-invalid={wrong || undefined}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}
