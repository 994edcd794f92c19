"use client";
import type { BenchRow } from "@/core/trials/bench-row";
import { plainNumber } from "@/core/units";
import { rampColour } from "../theme/tokens";
import styles from "./bench-page.module.css";

const ramp = `linear-gradient(90deg, ${rampColour(0)}, ${rampColour(0.5)}, ${rampColour(1)})`;

/** The range as a scale, and on it the values the latest trial plans and the one that is kept. */
export function RangeScale({ row }: { row: BenchRow }) {
  const { low, high, unit, decimals, latest } = row;
  const kept = row.kept?.value;
  const planned = latest?.values ?? [];
  const known = kept === undefined ? planned : [...planned, kept];
  const from = Math.min(low, ...known);
  const to = Math.max(high, ...known);
  const place = (value: number) => `${((value - from) / (to - from || 1)) * 100}%`;
  const said = [
    `${plainNumber(low, decimals)} to ${plainNumber(high, decimals)} ${unit}`,
    kept === undefined ? "" : `kept ${plainNumber(kept, decimals)} ${unit}`,
    row.expected ? `expected ${row.expected.fromValue} to ${row.expected.toValue} ${unit}` : "",
    planned.length > 0 ? `the last trial plans ${planned.join(", ")} ${unit}` : "nothing asked yet",
  ];
  return (
    <div role="img" aria-label={said.filter(Boolean).join(", ")} className={styles.scale}>
      <div className={styles.line}>
        <span
          className={styles.range}
          style={{ left: place(low), width: `calc(${place(high)} - ${place(low)})`, background: ramp }}
        />
        {row.kept && row.kept.fromValue !== null && row.kept.toValue !== null && (
          <span
            className={styles.good}
            style={{
              left: place(row.kept.fromValue),
              width: `calc(${place(row.kept.toValue)} - ${place(row.kept.fromValue)})`,
            }}
          />
        )}
        {row.expected && (
          <span
            className={styles.expected}
            style={{
              left: place(Math.max(from, row.expected.fromValue)),
              width: `calc(${place(Math.min(to, row.expected.toValue))} - ${place(Math.max(from, row.expected.fromValue))})`,
            }}
          />
        )}
        {planned.map((value) => (
          <span key={value} className={styles.tick} style={{ left: place(value) }} />
        ))}
        {kept !== undefined && <span className={styles.keptMark} style={{ left: place(kept) }} />}
      </div>
      <div className={`mono dim ${styles.ends}`}>
        <span style={{ left: place(low), transform: "translateX(-30%)" }}>{plainNumber(low, decimals)}</span>
        <span style={{ left: place(high), transform: "translateX(-70%)" }}>
          {plainNumber(high, decimals)} {unit}
        </span>
      </div>
      <div className={`dim ${styles.under}`}>
        {row.labelled ? "label’s range" : "usual range"}
        {planned.length > 0 ? `; ${planned.length} values in the last trial` : ""}
      </div>
    </div>
  );
}
