"use client";
/** A program written from nothing: its text, the line under the cursor, the path it draws, what is wrong with it, and a try. */
import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useRouter } from "next/navigation";
import { useMemo, useRef, useState } from "react";
import { explainLine } from "@/core/firmware/explain";
import { sayState } from "@/core/firmware/holds";
import { lineOfPlace } from "@/core/findings/place";
import { stateBehind } from "@/core/gcode/state-behind";
import { readingOf } from "@/core/machine/reading";
import type { Printer } from "@/core/shelf/printer";
import { checkTyped } from "@/core/typed/checks";
import { readTyped } from "@/core/typed/facts";
import { snippets } from "@/core/typed/snippets";
import { sayDuration } from "@/core/units";
import { moveSeconds } from "@/core/motion/duration";
import { limitsFor } from "@/core/motion/limits";
import { ClashDialog } from "../common/dialogs-later";
import { api } from "../common/api";
import { Choice } from "../common/choice";
import { Findings } from "../common/findings";
import { Facts } from "../common/facts";
import { keys } from "../common/keys";
import { LinkButton } from "../common/link-button";
import { Loading } from "../common/loading";
import { NoPrinter } from "../common/no-printer";
import { useBenchPair } from "../common/queries";
import { TextField } from "../common/text-field";
import { MeaningOf } from "../trials/line-meaning";
import { PathDrawing } from "./path-drawing";
import styles from "./program-page.module.css";
import { EditorHandle, ProgramEditor } from "./program-editor";
import { TryCard } from "./try-card";
import { useProgram, Written } from "./use-program";
import { Problem } from "../common/problem";

export function ProgramPage({ id }: { id: number }) {
  const loaded = useQuery({
    queryKey: keys.writtenProgram(id),
    queryFn: () => api.get<Written>(`/programs/${id}`),
    gcTime: 0,
    staleTime: Infinity,
    retry: false,
  });
  const { printer } = useBenchPair();
  if (loaded.error) {
    return (
      <div className="empty" role="alert">
        <h1>This program is not here</h1>
        <p>{loaded.error.message}</p>
        <LinkButton href="/workshop">All files</LinkButton>
      </div>
    );
  }
  if (!loaded.data || printer === undefined) return <Loading rows={12} />;
  if (printer === null) return <NoPrinter />;
  return <LoadedProgram key={id} loaded={loaded.data} printer={printer} />;
}

/** What a text does, read anew with every key stroke: programs written by hand are short. */
function useRead(text: string, printer: Printer) {
  return useMemo(() => {
    const { tables, facts } = readTyped(text, printer);
    const { moves, events } = tables;
    const seconds = moveSeconds(moves, events, limitsFor(printer)).reduce((sum, one) => sum + one, 0);
    return { tables, seconds, findings: checkTyped(facts, tables, printer) };
  }, [text, printer]);
}

function LoadedProgram({ loaded, printer }: { loaded: Written; printer: Printer & { id: number } }) {
  const { now, edit, problem, clash, settle, layers } = useProgram(loaded);
  const { name, text } = now;
  const [line, setLine] = useState(0);
  const [tried, setTried] = useState<{ x: number; y: number; z: number } | null>(null);
  const editor = useRef<EditorHandle>(null);
  const router = useRouter();
  const { tables, seconds, findings } = useRead(text, printer);
  const lines = useMemo(() => text.split("\n"), [text]);
  const state = useMemo(
    () => stateBehind([new TextEncoder().encode(text)], line, { reading: readingOf(printer), asksProgram: false }),
    [text, line, printer],
  );
  const isStopped = findings.some(({ severity }) => severity === "stop");
  return (
    <>
      {clash && (
        <ClashDialog
          what="program"
          fields={clash.fields.map(String)}
          onTheirs={() => settle("theirs")}
          onMine={() => settle("mine")}
        />
      )}
      <h1 className="long-title">
        <TextField
          plain
          aria-label="Name of the program"
          value={name}
          maxLength={200}
          onChange={(next) => edit({ name: next })}
        />
      </h1>
      <p className="sub">
        A program written here, for {printer.name}. What it would do is shown beside it as you type; it saves itself.
      </p>
      <div className={styles.page}>
        <div className={styles.left}>
          <div className={styles.bar}>
            <Choice
              label="Put in a beginning"
              value={null}
              hint="Put in …"
              options={snippets.map((snippet, value) => ({ value, label: snippet.name }))}
              onChange={(index) => editor.current?.insert(snippets[index].lines(printer).join("\n"))}
            />
            <span className="dim">
              <kbd>Ctrl</kbd>+<kbd>Space</kbd> completes a command
            </span>
          </div>
          <ProgramEditor
            ref={editor}
            text={text}
            printer={printer}
            onText={(next) => edit({ text: next })}
            onLine={setLine}
          />
          <MeaningOf line={line} words={explainLine(lines[line] ?? "", readingOf(printer))} holds={sayState(state)} />
        </div>
        <div className="side">
          <PathDrawing
            moves={tables.moves}
            printer={printer}
            line={line}
            head={tried ?? { x: state.x, y: state.y, z: state.z }}
          />
          <section className="card" aria-label="Checks">
            <h2>Checks</h2>
            <Problem>{problem}</Problem>
            <Findings
              findings={findings.map(({ mend: _, others: __, ...finding }) => finding)}
              passed={findings.length === 0 && text.trim() !== "" ? ["Nothing in it would do harm."] : []}
              onMend={() => undefined}
              onGo={(where) => {
                const to = lineOfPlace(where);
                return to === null ? null : () => editor.current?.goTo(to - 1);
              }}
            />
          </section>
          <TryCard lines={lines} printer={printer} onPlace={setTried} onLine={(next) => editor.current?.goTo(next)} />
          <section className="card" aria-label="This program">
            <h2>This program</h2>
            <Facts
              rows={[
                ["Lines", lines.length.toLocaleString("en")],
                ["Moving, about", sayDuration(seconds)],
              ]}
            />
            <div className="stack">
              <Button block href={`/api/files/${loaded.id}/gcode`} download>
                Get the file
              </Button>
              <Button
                block
                disabled={isStopped || text.trim() === ""}
                onClick={() => router.push(`/printer/${printer.id}?view=job&file=${loaded.id}`)}
              >
                Send it to {printer.name}
              </Button>
              {layers > 0 && <LinkButton href={`/workshop/${loaded.id}`}>Open it with layers and edits</LinkButton>}
            </div>
          </section>
        </div>
      </div>
    </>
  );
}
