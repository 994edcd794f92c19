"use client";
/** The edits of a file on its height log: each a column, the chosen one a sentence with blanks, its places beside it. */
import { Button } from "antd";
import { KeyboardEvent, useRef, useState } from "react";
import type { Edit } from "@/core/edits";
import { Toggle } from "../common/toggle";
import { millimetresColumn } from "../heightlog/columns/millimetres";
import { HeightLog } from "../heightlog/height-log";
import { usePrinters } from "../common/queries";
import { BeginEdit } from "./begin-edit";
import styles from "./edit-board.module.css";
import { editColumns } from "./edit-columns";
import { canMerge, goToMerge } from "./merging";
import { draggedTo } from "./on-log";
import { PlacesOfEdit } from "./places-of-edit";
import { isSaid, sentenceFor, SaidKind, shortOf } from "./sentences";
import { useFrontColumn } from "./use-front-column";
import type { FilePageState } from "./use-file-page";

const FRONT_PX = 168;
const NO_BANDS: never[] = [];

export function EditBoard({ page, roomPx }: { page: FilePageState; roomPx: number }) {
  const { stack, change, report, answer, waiting, problem, problemField, file, setView, cursor, setCursor } = page;
  const printers = usePrinters().data ?? [];
  const [wanted, setChosen] = useState(0);
  const chosen = Math.min(wanted, stack.length - 1);
  const begin = useRef<HTMLInputElement>(null);
  const refused = problem === null ? -1 : Number(problemField?.split(".")[0] ?? -1);
  const put = (index: number, edit: Edit, gesture?: string) =>
    change(
      stack.map((one, i) => (i === index ? edit : one)),
      gesture,
    );
  const front = { ...useFrontColumn(file.id, report, FRONT_PX), holdsEdges: false };
  const columns = [
    millimetresColumn(),
    front,
    ...editColumns({
      stack,
      answers: answer.edits,
      layers: report.layers,
      chosen,
      waiting,
      refused,
      onChoose: setChosen,
      onDrag: (index, end, mm, gesture) => put(index, draggedTo(stack[index], end, mm, report.layers), gesture),
    }),
  ];
  const start = (kind: SaidKind) => {
    change([...stack, sentenceFor(kind).fresh(report)]);
    setChosen(stack.length);
  };
  const press = (event: KeyboardEvent) => {
    const at = event.target;
    if (at instanceof HTMLInputElement || at instanceof HTMLSelectElement || at instanceof HTMLTextAreaElement) return;
    if (event.key === "ArrowLeft") setChosen(Math.max(0, chosen - 1));
    else if (event.key === "ArrowRight") setChosen(Math.min(stack.length - 1, chosen + 1));
    else if (event.key === "/") begin.current?.focus();
    else return;
    event.preventDefault();
  };
  return (
    <div className={styles.board} onKeyDown={press}>
      <div className={styles.left}>
        {stack.length === 0 ? (
          <p className="dim">
            Nothing is changed yet. What do you want to change? The original file always stays untouched.
          </p>
        ) : (
          <Chosen page={page} index={chosen} refused={refused} onPut={put} onMoved={setChosen} />
        )}
        <BeginEdit
          field={begin}
          isOpen={stack.length === 0}
          onBegin={start}
          onPlan={() => setView("plan")}
          onMerge={canMerge(page, printers) ? goToMerge : null}
        />
        <HeightLog
          label="Height log of the edits"
          columns={columns}
          bands={NO_BANDS}
          tops={page.tops}
          topMm={page.topMm}
          cursorLayer={cursor}
          onCursor={setCursor}
          roomPx={Math.max(240, roomPx - 176)}
          keys={
            <>
              <span>
                <kbd>←</kbd> <kbd>→</kbd> edit
              </span>
              <span>
                <kbd>↑</kbd> <kbd>↓</kbd> layer
              </span>
              <span>
                <kbd>/</kbd> say what shall change
              </span>
            </>
          }
        />
      </div>
      {stack.length > 0 && !waiting && refused !== chosen && (
        <PlacesOfEdit
          key={`${chosen} ${answer.version}`}
          fileId={file.id}
          index={chosen}
          version={answer.version}
          layers={report.layers}
          cursor={cursor}
          onCursor={setCursor}
          edit={stack[chosen]}
          onEdit={(edit) => put(chosen, edit)}
        />
      )}
    </div>
  );
}

interface ChosenProps {
  page: FilePageState;
  index: number;
  refused: number;
  onPut(index: number, edit: Edit): void;
  onMoved(index: number): void;
}

/** The chosen edit as a sentence, and what can be done with it as a whole. */
function Chosen({ page, index, refused, onPut, onMoved }: ChosenProps) {
  const { stack, change, report, printer, answer, problem, file, setView } = page;
  const edit = stack[index];
  const name = `edit ${index + 1}`;
  const swap = (by: 1 | -1) => {
    const next = [...stack];
    [next[index], next[index + by]] = [next[index + by], next[index]];
    change(next);
    onMoved(index + by);
  };
  return (
    <section className={`card ${styles.chosen}`} aria-label={`Edit ${index + 1} of ${stack.length}: ${shortOf(edit)}`}>
      <div className={styles.sentence} data-off={edit.off || undefined}>
        {isSaid(edit) ? (
          sentenceFor(edit.kind).blanks({
            ...{ edit, report, printer, fileId: file.id, fileName: file.name, index, version: answer.version },
            onChange: (next) => onPut(index, next),
          })
        ) : (
          <>
            {edit.kind === "height-plan" ? "A plan is applied to the layers." : "Lines are taken out."}{" "}
            {edit.kind === "height-plan" && (
              <button className="link-button" onClick={() => setView("plan")}>
                Change the plan
              </button>
            )}
          </>
        )}
      </div>
      {problem !== null && refused === index && <p className="field-error">{problem}</p>}
      <div className={styles.acts}>
        <Toggle
          checked={!edit.off}
          label={`Make ${name}`}
          onChange={(isOn) => onPut(index, isOn ? withoutOff(edit) : { ...edit, off: true })}
        />
        <Button size="small" disabled={index === 0} onClick={() => swap(-1)} aria-label={`Make ${name} earlier`}>
          ← earlier
        </Button>
        <Button
          size="small"
          disabled={index === stack.length - 1}
          onClick={() => swap(1)}
          aria-label={`Make ${name} later`}
        >
          later →
        </Button>
        <Button
          size="small"
          onClick={() => change(stack.filter((_, i) => i !== index))}
          aria-label={`Take away ${name}`}
        >
          Take away
        </Button>
      </div>
    </section>
  );
}

function withoutOff(edit: Edit): Edit {
  const { off: _, ...rest } = edit;
  return rest as Edit;
}
