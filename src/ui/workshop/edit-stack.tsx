"use client";
/** The edits of a file, each a sentence with blanks, in the order in which they are made; and a new one is begun by what shall change. */
import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import type { Edit } from "@/core/edits";
import type { ChangedLine } from "@/core/edits/look";
import { api } from "../common/api";
import { keys } from "../common/keys";
import { Toggle } from "../common/toggle";
import styles from "./edit-stack.module.css";
import { isSaid, saidKinds, sentenceFor } from "./sentences";
import type { FilePageState } from "./use-file-page";

const MOST_SHOWN = 100;

export function EditStack({ page }: { page: FilePageState }) {
  const { stack, change, report, printer, answer, waiting, problem, problemField, file, setView } = page;
  const [openAt, setOpenAt] = useState<number | null>(null);
  const put = (index: number, edit: Edit) => change(stack.map((one, i) => (i === index ? edit : one)));
  const swap = (index: number, by: 1 | -1) => {
    const next = [...stack];
    [next[index], next[index + by]] = [next[index + by], next[index]];
    change(next);
    setOpenAt(null);
  };
  return (
    <div className={styles.stack}>
      {stack.length === 0 && (
        <p className="dim">
          Nothing is changed yet. Begin with what shall change; the original always stays as it came.
        </p>
      )}
      <ol className={`rows ${styles.edits}`} aria-label="Edits, in the order in which they are made">
        {stack.map((edit, index) => {
          const count = answer.edits[index]?.changedLines ?? 0;
          const name = `edit ${index + 1}`;
          return (
            <li key={index} className={`list-row ${styles.edit}`} data-off={edit.off || undefined}>
              <Toggle
                checked={!edit.off}
                label={`Make ${name}`}
                onChange={(isOn) => put(index, isOn ? withoutOff(edit) : { ...edit, off: true })}
              />
              <div className={styles.sentence}>
                {isSaid(edit) ? (
                  sentenceFor(edit.kind).blanks({ edit, report, printer, onChange: (next) => put(index, next) })
                ) : (
                  <>
                    {edit.kind === "height-plan" ? "A plan is laid over the layers." : "Lines are taken out."}{" "}
                    {edit.kind === "height-plan" && (
                      <button className="link-button" onClick={() => setView("plan")}>
                        Change the plan
                      </button>
                    )}
                  </>
                )}
              </div>
              <div className={styles.acts}>
                <button
                  className="link-button"
                  aria-expanded={openAt === index}
                  disabled={count === 0}
                  onClick={() => setOpenAt(openAt === index ? null : index)}
                >
                  {waiting ? "…" : count === 1 ? "1 line" : `${count.toLocaleString("en")} lines`}
                </button>
                <Button
                  size="small"
                  disabled={index === 0}
                  onClick={() => swap(index, -1)}
                  aria-label={`Make ${name} earlier`}
                >
                  ↑
                </Button>
                <Button
                  size="small"
                  disabled={index === stack.length - 1}
                  onClick={() => swap(index, 1)}
                  aria-label={`Make ${name} later`}
                >
                  ↓
                </Button>
                <Button
                  size="small"
                  onClick={() => change(stack.filter((_, i) => i !== index))}
                  aria-label={`Take away ${name}`}
                >
                  Take away
                </Button>
              </div>
              {problem !== null && problemField?.split(".")[0] === String(index) && (
                <p className={`field-error ${styles.problem}`}>{problem}</p>
              )}
              {openAt === index && !waiting && (
                <Preview
                  fileId={file.id}
                  index={index}
                  version={answer.version}
                  onSkip={
                    edit.kind === "find"
                      ? (line) => put(index, { ...edit, skip: [...(edit.skip ?? []), line + 1] })
                      : undefined
                  }
                />
              )}
            </li>
          );
        })}
      </ol>
      <div className={styles.begin} role="group" aria-label="Begin an edit">
        <span className="dim">What shall change?</span>
        {saidKinds.map((kind) => (
          <Button key={kind} onClick={() => change([...stack, sentenceFor(kind).fresh(report)])}>
            {sentenceFor(kind).begin}
          </Button>
        ))}
        <Button onClick={() => setView("plan")}>Values by height</Button>
      </div>
    </div>
  );
}

function withoutOff(edit: Edit): Edit {
  const { off: _, ...rest } = edit;
  return rest as Edit;
}

interface PreviewProps {
  fileId: number;
  index: number;
  version: number;
  /** Leaves one hit as it is, where the edit can. */
  onSkip?: (line: number) => void;
}

/** The lines one edit changes, before and after, each at its layer. */
function Preview({ fileId, index, version, onSkip }: PreviewProps) {
  const preview = useQuery({
    queryKey: keys.editPreview(fileId, index, version),
    queryFn: () =>
      api.get<{ total: number; lines: ChangedLine[] }>(
        `/files/${fileId}/edits/preview?edit=${index}&count=${MOST_SHOWN}`,
      ),
  });
  if (preview.error) return <p role="alert">{preview.error.message}</p>;
  if (!preview.data) return <p className="dim">Looking …</p>;
  const { total, lines } = preview.data;
  return (
    <div className={styles.preview}>
      <table className="grid-table">
        <thead>
          <tr>
            <th>Line</th>
            <th>Layer from 1</th>
            <th>Before</th>
            <th>After</th>
            {onSkip && <th />}
          </tr>
        </thead>
        <tbody>
          {lines.map(({ line, layer, before, after }, i) => (
            <tr key={i}>
              <td className="mono">{line + 1}</td>
              <td className="mono">{layer === null ? "" : layer + 1}</td>
              <td className="mono">
                {before.map((text, n) => (
                  <div key={n}>{text}</div>
                ))}
              </td>
              <td className="mono">
                {after.map((text, n) => (
                  <div key={n}>{text}</div>
                ))}
                {after.length === 0 && <span className="dim">taken out</span>}
              </td>
              {onSkip && (
                <td>
                  <button className="link-button" onClick={() => onSkip(line)}>
                    leave it
                  </button>
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      {total > lines.length && (
        <p className="dim">… and {(total - lines.length).toLocaleString("en")} more places like these.</p>
      )}
    </div>
  );
}
