"use client";
/** The values, each at its own band. Bands too low for a field show their value as text; still lower ones leave some out. */
import { CSSProperties, useEffect, useState } from "react";
import { plainNumber } from "@/core/units";
import { parseFigure } from "../../common/figure";
import type { LogBand, LogColumn, LogFrame } from "../column";
import styles from "../height-log.module.css";

export interface LogValues {
  unit: string;
  low: number;
  high: number;
  step: number;
  decimals: number;
  /** Null where the band does not set it. */
  of(band: LogBand): number | null;
  onChange?(band: LogBand, value: number): void;
}

/** The value of each band at its own height. */
export function valuesColumn({
  title,
  widthPx,
  values,
}: {
  title: string;
  widthPx: number;
  values: LogValues;
}): LogColumn {
  return { title, widthPx, over: (frame) => <Values values={values} {...frame} /> };
}

const FIELD_PX = 30;
const SMALL_FIELD_PX = 22;
const NOTE_PX = 45;

function Values({ leftPx: left, values, bands, scale }: LogFrame & { values: LogValues }) {
  let freeFrom = Infinity;
  return (
    <>
      {bands.map((band) => {
        const top = scale.y(band.toMm);
        const room = scale.y(band.fromMm) - top;
        const value = values.of(band);
        if (value === null || room <= 0) return null;
        const small = room < FIELD_PX + 4;
        const height = small ? SMALL_FIELD_PX - 2 : FIELD_PX;
        const y = room >= NOTE_PX ? top + (room - NOTE_PX) / 2 : top + (room - height) / 2;
        if (room < 13) {
          // No room for every band: name as many as can be read.
          if (freeFrom - y < 13) return null;
          freeFrom = y;
        }
        return (
          <span key={band.number} onPointerDown={(event) => event.stopPropagation()}>
            {room >= SMALL_FIELD_PX && values.onChange ? (
              <ValueField band={band} value={value} values={values} style={{ left, top: y }} small={small} />
            ) : (
              <span className={`${styles.note} mono`} style={{ left: left + 8, top: top + room / 2 - 8, fontSize: 11 }}>
                {plainNumber(value, values.decimals)} {values.unit}
              </span>
            )}
            {room >= NOTE_PX && band.note && (
              <span className={styles.note} style={{ left: left + 2, top: y + FIELD_PX - 1 }}>
                {band.note}
              </span>
            )}
          </span>
        );
      })}
    </>
  );
}

function ValueField(props: { band: LogBand; value: number; values: LogValues; style: CSSProperties; small: boolean }) {
  const { band, value, values, style, small } = props;
  const [text, setText] = useState<string | null>(null);
  const shown = text ?? plainNumber(value, values.decimals);
  const parsed = parseFigure(shown, values.low, values.high, values.unit);
  const wrong = "wrong" in parsed ? parsed.wrong : null;
  useEffect(() => setText(null), [value]);
  const take = (next: string) => {
    setText(next);
    const result = parseFigure(next, values.low, values.high, values.unit);
    if ("value" in result && result.value !== value) values.onChange?.(band, result.value);
  };
  return (
    <span
      className={`${styles.value} ${small ? styles.small : ""}`}
      style={{ ...style, "--band": band.colour } as CSSProperties}
    >
      <input
        // Room for a long unit behind the figure.
        style={{ paddingRight: values.unit.length * 6 + 14, width: 78 + values.unit.length * 7 }}
        aria-label={`Band ${band.number}, ${plainNumber(band.fromMm)} to ${plainNumber(band.toMm)} mm, ${values.unit}`}
        aria-invalid={wrong !== null}
        title={wrong ?? undefined}
        inputMode="decimal"
        autoComplete="off"
        value={shown}
        onChange={(event) => take(event.target.value)}
        onBlur={() => wrong === null && setText(null)}
        onKeyDown={(event) => {
          if (event.key !== "ArrowUp" && event.key !== "ArrowDown") return;
          event.preventDefault();
          const next = value + (event.key === "ArrowUp" ? values.step : -values.step);
          take(plainNumber(Math.min(values.high, Math.max(values.low, next)), values.decimals));
        }}
      />
      <span className="unit" style={{ marginLeft: -(values.unit.length * 6 + 18) }}>
        {values.unit}
      </span>
      {wrong && (
        <span className="field-error" role="alert">
          {wrong}
        </span>
      )}
    </span>
  );
}
