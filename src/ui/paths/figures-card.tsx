"use client";
/** Named numbers of a sheet, a slider each; and what holds for every stroke that says nothing of its own. */
import { useState } from "react";
import type { Figure, Sheet } from "@/core/sheets/sheet";
import { NumberField } from "../common/number-field";
import { TextField } from "../common/text-field";
import { Toggle } from "../common/toggle";
import { FormulaField } from "./formula-field";
import { exprAt, RowField, withExpr } from "./row-kinds";
import type { Wrong } from "./sheet-context";
import styles from "./sheet-page.module.css";

interface Props {
  sheet: Sheet;
  wrong: Wrong | null;
  onChange(change: Partial<Sheet>, gesture?: string): void;
}

export function Figures({ sheet, wrong, onChange }: Props) {
  const { figures } = sheet;
  const [open, setOpen] = useState<number | null>(null);
  const put = (at: number, change: Partial<Figure>, gesture?: string) =>
    onChange({ figures: figures.map((one, i) => (i === at ? { ...one, ...change } : one)) }, gesture);
  return (
    <>
      {figures.map((figure, i) => (
        <FigureRow
          key={i}
          index={i}
          figure={figure}
          sheet={sheet}
          wrong={wrong?.field.startsWith(`figures.${i}.`) ? wrong.message : null}
          isOpen={open === i}
          onOpen={() => setOpen(open === i ? null : i)}
          onPut={(change, gesture) => put(i, change, gesture)}
          onRemove={() => onChange({ figures: figures.filter((_, n) => n !== i) })}
        />
      ))}
      <button
        className="link-button"
        onClick={() =>
          onChange({ figures: [...figures, { name: freshName(figures), value: "1", unit: "mm", low: 0, high: 10 }] })
        }
      >
        Another number
      </button>
    </>
  );
}

interface FigureProps {
  index: number;
  figure: Figure;
  sheet: Sheet;
  wrong: string | null;
  isOpen: boolean;
  onOpen(): void;
  onPut(change: Partial<Figure>, gesture?: string): void;
  onRemove(): void;
}

const PLAIN = /^\s*-?[\d.]+\s*$/;

function FigureRow({ index: i, figure, sheet, wrong, isOpen, onOpen, onPut, onRemove }: FigureProps) {
  const { name, value, unit = "", low, high, step } = figure;
  const isPlain = typeof value === "number" || PLAIN.test(value);
  return (
    <div className={styles.figure} role="group" aria-label={`Figure ${i + 1}`}>
      <TextField
        aria-label={`Name of number ${i + 1}`}
        value={name}
        maxLength={30}
        onChange={(next) => onPut({ name: next }, `name${i}`)}
      />
      <FormulaField
        label={unit || "="}
        name={`Value of ${name}`}
        sheet={sheet}
        path={null}
        isCompact
        value={value}
        isWrong={wrong !== null}
        onChange={(next) => onPut({ value: next }, `value${i}`)}
      />
      {isPlain && low !== undefined && high !== undefined && high > low ? (
        <input
          type="range"
          aria-label={`Slide ${name}`}
          min={low}
          max={high}
          step={step ?? (high - low) / 100}
          value={Number(value)}
          onChange={({ target }) => onPut({ value: target.value }, `slide${i}`)}
        />
      ) : (
        <span />
      )}
      <button className={styles.act} aria-label={`Range of ${name}`} aria-expanded={isOpen} onClick={onOpen}>
        …
      </button>
      {isOpen && (
        <div className={styles.range}>
          <label className={styles.unit}>
            <span>unit</span>
            <TextField
              aria-label={`Unit of ${name}`}
              value={unit}
              maxLength={20}
              onChange={(next) => onPut({ unit: next }, `unit${i}`)}
            />
          </label>
          <Bound name={name} what="from" value={low} onValue={(next) => onPut({ low: next }, `low${i}`)} />
          <Bound name={name} what="to" value={high} onValue={(next) => onPut({ high: next }, `high${i}`)} />
          <Bound name={name} what="step" value={step} onValue={(next) => onPut({ step: next }, `step${i}`)} />
          <button className="link-button" aria-label={`Take away ${name}`} onClick={onRemove}>
            take away
          </button>
        </div>
      )}
      {wrong && <p className="field-error">{wrong}</p>}
    </div>
  );
}

interface BoundProps {
  name: string;
  what: "from" | "to" | "step";
  value: number | undefined;
  onValue(value: number | undefined): void;
}

function Bound({ name, what, value, onValue }: BoundProps) {
  return (
    <label className={styles.unit}>
      <span aria-hidden>{what}</span>
      <NumberField
        label={`${name}, ${what}`}
        value={value}
        unit=""
        low={what === "step" ? 0.0001 : -100_000}
        high={100_000}
        decimals={4}
        width={56}
        onChange={onValue}
        onEmpty={() => onValue(undefined)}
      />
    </label>
  );
}

function freshName(figures: readonly Figure[]): string {
  const taken = new Set(figures.map(({ name }) => name));
  return [..."rwdkmpqsuv"].find((letter) => !taken.has(letter)) ?? `f${figures.length + 1}`;
}

const wholeFields: RowField[] = [
  { path: "bead.widthMm", label: "bead wide" },
  { path: "bead.heightMm", label: "bead high" },
  { path: "speedMmS", label: "speed, mm/s" },
];
const wholeNames: Record<string, string> = {
  "bead.widthMm": "Bead wide, mm",
  "bead.heightMm": "Bead high, mm",
  speedMmS: "Speed, mm/s",
};
const rehearsed: RowField[] = [
  { path: "rehearse.from", label: "from" },
  { path: "rehearse.to", label: "to" },
  { path: "rehearse.bands", label: "bands" },
];

const savings = [
  { key: "nearestStart", label: "rings begin where the nozzle is" },
  { key: "nearestCopy", label: "start copies at the nearer end" },
  { key: "noNeedlessRetraction", label: "don't retract over printed lines" },
] as const;

/** What holds for every stroke that says nothing of its own. */
export function Whole({ sheet, wrong, onChange }: Props) {
  const fields = (list: readonly RowField[], nameOf: (field: RowField) => string, isStacked = false) =>
    list.map((field) => (
      <FormulaField
        key={field.path}
        isStacked={isStacked}
        label={field.label}
        name={nameOf(field)}
        sheet={sheet}
        path={null}
        value={exprAt(sheet, field.path)}
        isWrong={wrong?.field === field.path}
        onChange={(text) => onChange(withExpr(sheet, field, text), field.path)}
      />
    ));
  const isOwn = wrong && /^(bead|speedMmS|rehearse)/.test(wrong.field);
  return (
    <div className={styles.whole}>
      <div className={styles.threes}>{fields(wholeFields, ({ path }) => wholeNames[path], true)}</div>
      <details open={sheet.rehearse !== undefined || undefined}>
        <summary>Ways and bands</summary>
        <div className={styles.whole}>
          {savings.map(({ key, label }) => (
            <label key={key} className={styles.switch}>
              <Toggle
                checked={sheet.optimise?.[key] !== false}
                onChange={(isOn) => onChange({ optimise: { ...sheet.optimise, [key]: isOn } })}
              />{" "}
              {label}
            </label>
          ))}
          <label className={styles.switch}>
            <Toggle
              checked={sheet.rehearse !== undefined}
              onChange={(isOn) => onChange({ rehearse: isOn ? { from: "200", to: "220", bands: "5" } : undefined })}
            />{" "}
            preview with band values (value, band(k))
          </label>
          {sheet.rehearse && fields(rehearsed, ({ label }) => `Rehearsed, ${label}`)}
        </div>
      </details>
      {isOwn && <p className="field-error">{wrong.message}</p>}
    </div>
  );
}
