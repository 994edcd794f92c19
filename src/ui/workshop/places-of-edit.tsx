"use client";
/** The places of one edit, before and after, each at its height; single ones can be left alone. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Edit, leavesAlone } from "@/core/edits";
import type { ChangedLine } from "@/core/edits/splices/windows";
import type { LayerReport } from "@/core/report/report";
import { plainNumber } from "@/core/units";
import { api } from "../common/api";
import { keys } from "../common/keys";
import styles from "./edit-board.module.css";

const WINDOW = 100;
/** A place shows so many lines of its own; the rest are counted. */
const MOST_SHOWN = 4;

interface Props {
  fileId: number;
  index: number;
  version: number;
  layers: readonly LayerReport[];
  cursor: number;
  onCursor(layer: number): void;
  edit: Edit;
  onEdit(edit: Edit): void;
}

export function PlacesOfEdit(props: Props) {
  const { fileId, index, version, layers, cursor, onCursor, edit, onEdit } = props;
  const [from, setFrom] = useState(0);
  const list = useRef<HTMLOListElement>(null);
  const preview = useQuery({
    queryKey: [...keys.editPreview(fileId, index, version), from],
    queryFn: () =>
      api.get<{ total: number; lines: ChangedLine[] }>(
        `/files/${fileId}/edits/preview?edit=${index}&from=${from}&count=${WINDOW}`,
      ),
    retry: false,
  });
  const lines = preview.data?.lines;
  const at = lines?.findIndex(({ layer }) => layer !== null && layer >= cursor) ?? -1;
  useEffect(() => {
    // Within its own list alone: the page stays where it is.
    const row = list.current?.children[at] as HTMLElement | undefined;
    if (row && list.current) list.current.scrollTop = row.offsetTop - list.current.offsetTop - 60;
  }, [at]);
  if (preview.error) return <p role="alert">{preview.error.message}</p>;
  if (!lines) return <p className="dim">Looking …</p>;
  const { total } = preview.data!;
  const canLeave = leavesAlone(edit.kind);
  const skip = (line: number) => onEdit({ ...edit, skip: [...new Set([...(edit.skip ?? []), line + 1])] } as Edit);
  return (
    <section className={styles.places} aria-label="Places of this edit">
      <p className="dim">
        {total === 0 ? "It changes nothing." : total === 1 ? "One place" : `${total.toLocaleString("en")} places`}
        {canLeave && edit.skip && (
          <>
            , {edit.skip.length} left alone{" "}
            <button className="link-button" onClick={() => onEdit({ ...edit, skip: undefined } as Edit)}>
              take them again
            </button>
          </>
        )}
      </p>
      <ol className="rows" ref={list}>
        {lines.map(({ line, layer, before, after }, i) => (
          <li key={`${line} ${i}`} className={styles.place} data-here={i === at || undefined}>
            <button
              className={styles.where}
              onClick={() => layer !== null && onCursor(layer)}
              onKeyDown={(event) => {
                if (event.key !== " " || !canLeave) return;
                event.preventDefault();
                skip(line);
              }}
            >
              <span>{layer === null ? "" : sayLayer(layers[layer], layer)}</span>
              <span>line {(line + 1).toLocaleString("en")}</span>
            </button>
            <Lines texts={before} isBefore />
            <Lines texts={after} />
            {after.length === 0 && <span className="dim">taken out</span>}
            {canLeave && (
              <button className="link-button" onClick={() => skip(line)}>
                leave it
              </button>
            )}
          </li>
        ))}
      </ol>
      {(from > 0 || from + WINDOW < total) && (
        <p className="spread">
          <button className="link-button" disabled={from === 0} onClick={() => setFrom(Math.max(0, from - WINDOW))}>
            earlier places
          </button>
          <button className="link-button" disabled={from + WINDOW >= total} onClick={() => setFrom(from + WINDOW)}>
            later places
          </button>
        </p>
      )}
    </section>
  );
}

function Lines({ texts, isBefore = false }: { texts: readonly string[]; isBefore?: boolean }) {
  return (
    <>
      {texts.slice(0, MOST_SHOWN).map((text, i) => (
        <div key={i} className={`mono ${isBefore ? styles.before : styles.after}`}>
          {text}
        </div>
      ))}
      {texts.length > MOST_SHOWN && <span className="dim">… and {texts.length - MOST_SHOWN} lines more</span>}
    </>
  );
}

/** Both faces of a layer: a height “from” which something holds is its lower one. */
function sayLayer(report: { zMm: number; heightMm: number } | undefined, layer: number): string {
  if (!report) return `layer ${layer + 1}`;
  return `${plainNumber(report.zMm - report.heightMm, 2)} to ${plainNumber(report.zMm, 2)} mm, layer ${layer + 1}`;
}
