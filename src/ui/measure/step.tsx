"use client";
import { ReactNode } from "react";

/** One step of a guide, with its number. */
export function Step({ number, title, children }: { number: number; title: string; children: ReactNode }) {
  return (
    <section className="card guide-step" aria-label={title}>
      <span className="guide-number" aria-hidden>
        {number}
      </span>
      <div>
        <h2>{title}</h2>
        {children}
      </div>
    </section>
  );
}
