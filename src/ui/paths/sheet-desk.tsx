"use client";
/** One sheet: figures and rows on the left, what they lay in the middle, what it takes and what can be done on the right. */
import { memo, useCallback, useMemo, useState } from "react";
import type { Item, Sheet } from "@/core/sheets/sheet";
import type { Printer } from "@/core/shelf/printer";
import type { Spool } from "@/core/shelf/spool";
import { ClashDialog } from "../common/dialogs-later";
import { TextField } from "../common/text-field";
import { UndoRedo } from "../common/undo-redo";
import { Figures, Whole } from "./figures-card";
import { KeepOuts } from "./keep-outs";
import { Outline } from "./outline";
import type { Wrong } from "./sheet-context";
import type { Lit } from "./sheet-picture";
import { SheetSide } from "./sheet-side";
import { SheetViews } from "./sheet-views";
import styles from "./sheet-page.module.css";
import { useSheetKeys } from "./use-sheet-keys";
import type { KeptSheet } from "./kept-sheet";
import { useSheet } from "./use-sheet";
import { useSheetWork } from "./use-sheet-work";

interface Props {
  loaded: KeptSheet;
  printer: Printer & { id: number };
  spool: Spool & { id: number };
}

const NOTHING_LIT: Lit = { field: null, stroke: null };

export function SheetDesk({ loaded, printer, spool }: Props) {
  const state = useSheet(loaded);
  const { sheet, change, clash, settle, problem, saving, flush, undo, redo, canUndo, canRedo } = state;
  const [lit, setLit] = useState<Lit>(NOTHING_LIT);
  const input = useMemo(() => ({ sheet, printer, spool }), [sheet, printer, spool]);
  const work = useSheetWork(input);
  const { view, wrong } = work;
  useSheetKeys({ undo, redo });
  const onLit = useCallback(
    (field: string | null) => setLit(field === null ? NOTHING_LIT : { field, stroke: null }),
    [],
  );
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
      <p className="sub">{view ? sayLaid(view.laid) : "Nothing is laid until every formula can be read."}</p>
      <div className={styles.page}>
        <section className="card" aria-label="The sheet">
          <div className="spread">
            <h2>Numbers</h2>
            <UndoRedo canUndo={canUndo} canRedo={canRedo} onUndo={undo} onRedo={redo} />
          </div>
          <Rows sheet={sheet} wrong={wrong} lit={lit.field} onLit={onLit} onChange={change} />
        </section>
        <SheetViews work={work} printer={printer} lit={lit} onLit={setLit} />
        <SheetSide
          id={loaded.id}
          sheet={sheet}
          printer={printer}
          spool={spool}
          work={work}
          problem={problem}
          isSaving={saving}
          flush={flush}
          onChange={change}
        />
      </div>
    </>
  );
}

interface RowsProps {
  sheet: Sheet;
  wrong: Wrong | null;
  lit: string | null;
  onLit(field: string | null): void;
  onChange(change: Partial<Sheet>, gesture?: string): void;
}

/** All that is typed in; drawn anew for what changes in it, and not for what comes of it. */
const Rows = memo(function Rows({ sheet, wrong, lit, onLit, onChange }: RowsProps) {
  const onItems = useCallback((items: Item[], gesture?: string) => onChange({ items }, gesture), [onChange]);
  return (
    <>
      <Figures sheet={sheet} wrong={wrong} onChange={onChange} />
      <Whole sheet={sheet} wrong={wrong} onChange={onChange} />
      <h2>Laid, in this order</h2>
      <Outline sheet={sheet} wrong={wrong} lit={lit} onLit={onLit} onChange={onItems} />
      <h2 className={styles.second}>Kept out</h2>
      <KeepOuts sheet={sheet} wrong={wrong} onChange={(keepOut, gesture) => onChange({ keepOut }, gesture)} />
    </>
  );
});

function sayLaid({ strokes, tops }: { strokes: number; tops: readonly number[] }): string {
  const count = (of: number, one: string, many: string) => `${of.toLocaleString("en")} ${of === 1 ? one : many}`;
  return `${count(strokes, "stroke", "strokes")} in ${count(tops.length, "layer", "layers")}.`;
}
