"use client";
import type { BriefTrial } from "@/core/trials/brief";
import { plainNumber } from "@/core/units";
import { valueColours } from "../theme/value-colours";
import styles from "./trial-list.module.css";

/** The plan at a glance: its bands laid on their side, bottom left. */
export function BandStrip({ trial }: { trial: BriefTrial }) {
  const { unit, decimals, bands, baseHeightMm, besides } = trial;
  const values = bands.map(([, value]) => value ?? undefined);
  const colours = valueColours(values);
  const totalMm = bands.reduce((sum, [heightMm]) => sum + heightMm, baseHeightMm);
  const [first, last] = [values[0], values.at(-1)];
  return (
    <div>
      <div className={styles.strip} aria-hidden>
        <span style={{ width: `${(baseHeightMm / totalMm) * 100}%` }} />
        {bands.map(([heightMm], i) => (
          <span
            key={i}
            className={styles.band}
            style={{ width: `${(heightMm / totalMm) * 100}%`, background: colours[i] }}
          />
        ))}
      </div>
      <div className={`dim mono ${styles.range}`}>
        {first !== undefined && last !== undefined
          ? `${plainNumber(first, decimals)} → ${plainNumber(last, decimals)} ${unit}`
          : `${besides} side by side`}
      </div>
    </div>
  );
}
