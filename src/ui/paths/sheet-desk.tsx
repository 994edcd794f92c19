"use client";
/** One sheet: figures and rows on the left, what they lay on the right, with every key stroke. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useDeferredValue, useMemo, useState } from "react";
import type { Finding } from "@/core/findings/finding";
import type { LaidSheet } from "@/core/sheets/lay-sheet";
import { layByLayer, layOn, SheetFigures } from "@/core/sheets/program";
import { Scope } from "@/core/sheets/scope";
import type { Figure, Sheet } from "@/core/sheets/sheet";
import type { Printer } from "@/core/shelf/printer";
import type { Spool } from "@/core/shelf/spool";
import { plainNumber, roundTo, sayDuration } from "@/core/units";
import { api } from "../common/api";
import { ClashDialog } from "../common/dialogs-later";
import { Facts } from "../common/facts";
import { Findings } from "../common/findings";
import { keys } from "../common/keys";
import { TextField } from "../common/text-field";
import { UndoRedo } from "../common/undo-redo";
import { Outline, Wrong } from "./outline";
import { SheetDrawing } from "./sheet-drawing";
import styles from "./sheet-page.module.css";
import { KeptSheet, useSheet } from "./use-sheet";

interface Props {
  loaded: KeptSheet;
  printer: Printer & { id: number };
  spool: Spool & { id: number };
}

export function SheetDesk({ loaded, printer, spool }: Props) {
  const state = useSheet(loaded);
  const { sheet, change, clash, settle, problem, undo, redo, canUndo, canRedo } = state;
  const [lit, setLit] = useState<string | null>(null);
  const shown = useDeferredValue(sheet);
  const { laid, wrong } = useLaid(shown, printer, spool);
  const { figures, findings } = useChecked(shown, wrong !== null, printer.id, spool.id);
  const raised = useMemo(() => layByLayer(sheet), [sheet]);
  const isStopped = wrong !== null || findings.some(({ severity }) => severity === "stop");
  return (
    <>
      {clash && (
        <ClashDialog what="sheet" fields={["sheet"]} onTheirs={() => settle("theirs")} onMine={() => settle("mine")} />
      )}
      <h1 className="long-title">
        <TextField
          plain
          className={styles.title}
          aria-label="Name of the sheet"
          value={sheet.name}
          maxLength={100}
          onChange={(name) => change({ name }, "name")}
        />
      </h1>
      <p className="sub">
        {laid
          ? `${laid.strokes.toLocaleString("en")} strokes in ${laid.tops.length} ${laid.tops.length === 1 ? "layer" : "layers"}.${laid.savedRetractions > 0 ? ` ${laid.savedRetractions.toLocaleString("en")} times the filament need not be drawn back: a stroke begins where the last one ended.` : ""}`
          : "Nothing is laid until every formula can be read."}
      </p>
      <div className={styles.page}>
        <section className="card" aria-label="The sheet">
          <div className="spread">
            <h2>Figures</h2>
            <UndoRedo canUndo={canUndo} canRedo={canRedo} onUndo={undo} onRedo={redo} />
          </div>
          <Figures sheet={sheet} wrong={wrong} onChange={(next, gesture) => change({ figures: next }, gesture)} />
          <Whole sheet={sheet} wrong={wrong} onChange={change} />
          <h2>Laid, in this order</h2>
          <Outline
            items={sheet.items}
            wrong={wrong}
            lit={lit}
            onLit={setLit}
            onChange={(items, gesture) => change({ items }, gesture)}
          />
        </section>
        <SheetDrawing laid={laid} lit={lit} />
        <div className="side">
          {figures && <Takes figures={figures} spool={spool} />}
          <section className="card" aria-label="Checks">
            <h2>Checks</h2>
            {problem && (
              <div className="finding stop" role="alert">
                {problem}
              </div>
            )}
            {wrong && (
              <div className="finding stop" role="alert">
                {wrong.message}
              </div>
            )}
            <Findings
              findings={wrong ? [] : findings.map(({ mend: _, others: __, ...finding }) => finding)}
              passed={!wrong && findings.length === 0 ? ["The nozzle clears everything laid."] : []}
              onMend={() => undefined}
            />
            {!wrong && raised && findings.some(({ check }) => check === "head-clearance") && (
              <button className="link-button" onClick={() => change({ items: raised.items })}>
                Lay it layer by layer
              </button>
            )}
          </section>
          <Button
            className="go"
            size="large"
            block
            href={`/api/sheets/${loaded.id}/gcode?printerId=${printer.id}&spoolId=${spool.id}`}
            download
            disabled={isStopped || state.saving}
          >
            Get the file
          </Button>
          <a
            className="link-button"
            href={`data:application/json;charset=utf-8,${encodeURIComponent(JSON.stringify(sheet, null, 2))}`}
            download={`${sheet.name}.json`}
          >
            Write the sheet out (JSON)
          </a>
        </div>
      </div>
    </>
  );
}

/** The sheet laid in the page; the last one that could be laid stays while a formula is being typed. */
function useLaid(sheet: Sheet, printer: Printer, spool: Spool): { laid: LaidSheet | null; wrong: Wrong | null } {
  return useMemo(() => {
    const result = layOn({ sheet, printer, spool });
    if (result.ok) return { laid: result.value, wrong: null };
    return { laid: null, wrong: { field: result.field ?? "", message: result.message } };
  }, [sheet, printer, spool]);
}

const nothing: { figures: SheetFigures | null; findings: Finding[] } = { figures: null, findings: [] };

function useChecked(sheet: Sheet, isWrong: boolean, printerId: number, spoolId: number) {
  const text = JSON.stringify(sheet);
  const { data } = useQuery({
    queryKey: keys.sheetCheck(text, printerId, spoolId),
    enabled: !isWrong,
    queryFn: () =>
      api.post<{ figures: SheetFigures; findings: Finding[] }>("/sheets/check", { sheet, printerId, spoolId }),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: 10_000,
    retry: false,
  });
  return data ?? nothing;
}

function Takes({ figures, spool }: { figures: SheetFigures; spool: Spool }) {
  const { seconds, filamentMm, massG, cost, segments, layers } = figures;
  return (
    <section className="card" aria-label="This print">
      <h2>This print</h2>
      <Facts
        rows={[
          ["Time", sayDuration(seconds)],
          ["Filament", `${roundTo(filamentMm / 1000, 2).toFixed(2)} m`],
          ["Weighs", `${roundTo(massG, 1).toFixed(1)} g`],
          cost === null ? null : ["Costs", `${cost.toFixed(2)} ${spool.currency}`],
          ["Layers", layers.toLocaleString("en")],
          ["Moves", segments.toLocaleString("en")],
        ]}
      />
    </section>
  );
}

interface FiguresProps {
  sheet: Sheet;
  wrong: Wrong | null;
  onChange(figures: Figure[], gesture?: string): void;
}

function Figures({ sheet, wrong, onChange }: FiguresProps) {
  const { figures } = sheet;
  const scope = useMemo(() => Scope.of(figures), [figures]);
  const put = (at: number, change: Partial<Figure>, gesture?: string) =>
    onChange(
      figures.map((one, i) => (i === at ? { ...one, ...change } : one)),
      gesture,
    );
  return (
    <>
      {figures.map((figure, i) => {
        const { name, value, unit = "", low, high, step } = figure;
        const own =
          wrong?.field === `figures.${i}.value` || wrong?.field === `figures.${i}.name` ? wrong.message : null;
        const isPlain = typeof value === "number" || /^\s*-?[\d.]+\s*$/.test(value);
        return (
          <div key={i} className={styles.figure} role="group" aria-label={`Figure ${i + 1}`}>
            <TextField
              aria-label={`Name of figure ${i + 1}`}
              value={name}
              maxLength={30}
              onChange={(next) => put(i, { name: next }, `name${i}`)}
            />
            <TextField
              aria-label={`Value of ${name}`}
              value={String(value)}
              wrong={own !== null}
              maxLength={500}
              unit={unit}
              onChange={(next) => put(i, { value: next }, `value${i}`)}
            />
            {isPlain && low !== undefined && high !== undefined ? (
              <input
                type="range"
                aria-label={`Slide ${name}`}
                min={low}
                max={high}
                step={step ?? (high - low) / 100}
                value={Number(value)}
                onChange={({ target }) => put(i, { value: target.value }, `slide${i}`)}
              />
            ) : (
              <span className="dim mono">
                {scope.ok && !isPlain ? `= ${plainNumber(scope.value.get(name), 3)}` : ""}
              </span>
            )}
            <button
              className={styles.act}
              aria-label={`Take away ${name}`}
              onClick={() => onChange(figures.filter((_, n) => n !== i))}
            >
              ×
            </button>
            {own && <p className="field-error">{own}</p>}
          </div>
        );
      })}
      <button
        className="link-button"
        onClick={() => onChange([...figures, { name: freshName(figures), value: "1", unit: "mm" }])}
      >
        Another figure
      </button>
    </>
  );
}

function freshName(figures: readonly Figure[]): string {
  const taken = new Set(figures.map(({ name }) => name));
  return [..."rwdkmpqsuv"].find((letter) => !taken.has(letter)) ?? `f${figures.length + 1}`;
}

/** What holds for every stroke that says nothing of its own. */
function Whole({
  sheet,
  wrong,
  onChange,
}: {
  sheet: Sheet;
  wrong: Wrong | null;
  onChange(next: Partial<Sheet>, gesture?: string): void;
}) {
  const { bead, speedMmS } = sheet;
  const own = wrong && ["bead.widthMm", "bead.heightMm", "speedMmS"].includes(wrong.field) ? wrong.message : null;
  const field = (label: string, value: string | number, onText: (text: string) => void) => (
    <label className={styles.field}>
      <span>{label}</span>
      <TextField aria-label={label} value={String(value)} maxLength={500} onChange={onText} />
    </label>
  );
  return (
    <div className={styles.whole}>
      {field("Bead wide, mm", bead.widthMm, (widthMm) => onChange({ bead: { ...bead, widthMm } }, "bead-width"))}
      {field("high, mm", bead.heightMm, (heightMm) => onChange({ bead: { ...bead, heightMm } }, "bead-height"))}
      {field("Speed, mm/s", speedMmS, (next) => onChange({ speedMmS: next }, "speed"))}
      {own && <p className="field-error">{own}</p>}
    </div>
  );
}
