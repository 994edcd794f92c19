"use client";
/** What a calliper says of one band: typed, or pasted as a column; figures that look mistyped are asked about. */
import { Button } from "antd";
import type { ClipboardEvent } from "react";
import type { Measure } from "@/core/reading/guide";
import { doubtOf, medianOf, pastedLengths } from "@/core/reading/typed-lengths";
import { beadWidthFor } from "@/core/printing/process";
import type { Unit } from "@/core/trials/run";
import { plainNumber } from "@/core/units";
import { NumberField } from "../common/number-field";
import styles from "./reading.module.css";
import type { SentRun } from "./run-data";
import type { useReading } from "./use-runs";

interface Props {
  run: SentRun;
  band: Unit;
  measure: Measure;
  reading: ReturnType<typeof useReading>;
}

export function Lengths({ run, band, measure, reading }: Props) {
  const values = reading.lengthsOf(band.band, measure.key);
  const shown = Math.max(measure.usualCount, values.length);
  const set = (index: number, mm: number | undefined) => {
    const next = Array.from({ length: shown }, (_, i) => (i === index ? mm : values[i]));
    void reading.measure(
      band.band,
      measure.key,
      next.filter((one): one is number => one !== undefined),
    );
  };
  const paste = (event: ClipboardEvent) => {
    const pasted = pastedLengths(event.clipboardData.getData("text"));
    if (!pasted || pasted.length < 2) return;
    event.preventDefault();
    void reading.measureAll(measure.key, spread(pasted, run, band, measure.usualCount));
  };
  const expected = expectedMm(run, band, measure, reading);
  const doubts = values.flatMap((mm, index) => {
    const doubt = doubtOf(mm, expected);
    return doubt ? [{ ...doubt, index }] : [];
  });
  return (
    <fieldset className={styles.lengths} onPaste={paste}>
      <legend>{measure.label}</legend>
      {Array.from({ length: shown }, (_, i) => (
        <NumberField
          key={`${band.band} ${i}`}
          label={`${measure.label}, reading ${i + 1}`}
          value={values[i]}
          unit="mm"
          low={0.01}
          high={200}
          step={0.01}
          decimals={3}
          width={52}
          onChange={(mm) => set(i, mm)}
          onEmpty={() => values[i] !== undefined && set(i, undefined)}
        />
      ))}
      {doubts.map(({ ask, meantMm, index }) => (
        <p key={index} className="finding" role="status">
          {ask}{" "}
          {meantMm !== null && (
            <Button size="small" onClick={() => set(index, meantMm)}>
              Yes, {plainNumber(meantMm, 4)} mm
            </Button>
          )}
        </p>
      ))}
      <p className="dim">A column of numbers can be pasted: {measure.usualCount} a band, from here on up.</p>
    </fieldset>
  );
}

/** What was told, where that is known; else the middle of what was measured elsewhere. */
function expectedMm(
  { bands, printer }: SentRun,
  band: Unit,
  measure: Measure,
  reading: Props["reading"],
): number | null {
  if (measure.tells === "width") return band.wantedMm ?? beadWidthFor(printer);
  if (measure.tells === "sag") return null;
  return medianOf(bands.filter((one) => one !== band).flatMap((one) => reading.lengthsOf(one.band, measure.key)));
}

/** A pasted column on the bands from one on, so many lengths each. */
function spread(
  lengths: number[],
  { bands }: SentRun,
  from: Unit,
  count: number,
): { band: number; valuesMm: number[] }[] {
  const counted = bands.slice(bands.indexOf(from)).filter(({ counts }) => counts);
  return counted
    .map(({ band }, i) => ({ band, valuesMm: lengths.slice(i * count, (i + 1) * count) }))
    .filter(({ valuesMm }) => valuesMm.length > 0);
}
