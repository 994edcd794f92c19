"use client";
import { ReactNode } from "react";
import styles from "./measure.module.css";

/** One step of a guide, with its number. */
export function Step({ number, title, children }: { number: number; title: string; children: ReactNode }) {
  return (
    <section className={`card ${styles.step}`} aria-label={title}>
      <span className={styles.number} aria-hidden>
        {number}
      </span>
      <div>
        <h2>{title}</h2>
        {children}
      </div>
    </section>
  );
}
