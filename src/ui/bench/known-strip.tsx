"use client";
/** All values of a setting on one scale, in rows by what they have in common: a dot a pair in its spool's colour, on the range it was found in. */
import { sayValue } from "@/core/settings";
import { groupOf, Known, KnownAspect, KnownValue } from "@/core/values/known";
import { plainNumber } from "@/core/units";
import styles from "./known-page.module.css";

const TICKS = 5;

export function KnownStrip({ known, by }: { known: Known; by: KnownAspect }) {
  const { values, setting, decimals, unit, outOfLine, label } = known;
  const ends = values.flatMap(({ value, fromValue, toValue }) => [value, fromValue ?? value, toValue ?? value]);
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  const margin = (high - low || Math.max(1, Math.abs(low) * 0.1)) * 0.06;
  const place = (value: number) => ((value - low + margin) / (high - low + 2 * margin)) * 100;
  const rows = new Map<string, KnownValue[]>();
  for (const one of values) rows.set(groupOf[by](one), [...(rows.get(groupOf[by](one)) ?? []), one]);
  const odd = new Set(outOfLine.map(({ id }) => id));
  const ticks = Array.from({ length: TICKS }, (_, i) => low + ((high - low) * i) / (TICKS - 1));
  return (
    <div className={styles.strip} role="group" aria-label={`${label} by ${by}`}>
      {[...rows].sort(byMean).map(([name, own]) => (
        <div key={name} className={styles.row}>
          <span className={styles.name}>
            {name} <span className="dim">{own.length}</span>
          </span>
          <span className={styles.line}>
            {own.map((one) => (
              <Dot key={one.id} one={one} said={sayOne(one, setting)} place={place} isOdd={odd.has(one.id)} />
            ))}
          </span>
        </div>
      ))}
      <div className={styles.row} aria-hidden>
        <span className={`dim ${styles.name}`}>{unit}</span>
        <span className={`mono dim ${styles.ticks}`}>
          {(low === high ? [low] : ticks).map((value) => (
            <span key={value} style={{ left: `${place(value)}%` }}>
              {plainNumber(value, decimals)}
            </span>
          ))}
        </span>
      </div>
    </div>
  );
}

const meanOf = (values: readonly KnownValue[]) => values.reduce((sum, { value }) => sum + value, 0) / values.length;
const byMean = ([, a]: [string, KnownValue[]], [, b]: [string, KnownValue[]]) => meanOf(a) - meanOf(b);

function sayOne({ spool, printer, value, fromValue, toValue }: KnownValue, setting: Known["setting"]): string {
  const range =
    fromValue === null || toValue === null ? "" : `, from ${plainNumber(fromValue, 3)} to ${plainNumber(toValue, 3)}`;
  return `${spool} on ${printer}: ${sayValue(setting, value)}${range}`;
}

interface DotProps {
  one: KnownValue;
  said: string;
  place(value: number): number;
  isOdd: boolean;
}

function Dot({ one: { value, fromValue, toValue, colourHex }, said, place, isOdd }: DotProps) {
  return (
    <>
      {fromValue !== null && toValue !== null && (
        <span
          className={styles.range}
          style={{ left: `${place(fromValue)}%`, width: `${place(toValue) - place(fromValue)}%` }}
        />
      )}
      <span
        role="img"
        aria-label={isOdd ? `${said}; out of line` : said}
        title={said}
        className={styles.dot}
        data-odd={isOdd || undefined}
        style={{ left: `${place(value)}%`, background: colourHex }}
      />
    </>
  );
}
