"use client";
/** The program's text, read only, with the lines the plan put in marked. */
import { useEffect, useRef, useState } from "react";
import type { TrialClient } from "@/workers/trial-client";
import type { TrialProgram, TrialView } from "@/workers/trial-messages";
import { ProgramText, ProgramTextHandle } from "../common/program-text";
import { LineMeaningCard } from "./line-meaning";

const NO_LINES: number[] = [];

export function ProgramView({
  client,
  view,
  layer,
  heightPx,
}: {
  client: TrialClient | null;
  view: TrialView | null;
  layer: number;
  heightPx: number;
}) {
  const text = useRef<ProgramTextHandle>(null);
  const [program, setProgram] = useState<TrialProgram | null>(null);
  const [cursorLine, setCursorLine] = useState(0);

  useEffect(() => {
    let current = true;
    void client?.program().then((next) => current && next && setProgram(next));
    return () => {
      current = false;
    };
  }, [client, view]);

  const goTo = (line: number) => text.current?.goTo(line);
  return (
    <div>
      <p className="dim line below">
        <span>Lines the plan put in are marked.</span>
        <button className="link-button" onClick={() => goTo(program?.layerLines[layer] ?? 0)}>
          Go to layer {layer + 1}
        </button>
        {program && program.insertedLines.length > 0 && (
          <button className="link-button" onClick={() => goTo(nextInserted(program, text.current?.topLine() ?? 0))}>
            Next marked line
          </button>
        )}
        <span>
          <kbd>Ctrl</kbd> <kbd>F</kbd> searches
        </span>
      </p>
      <ProgramText
        ref={text}
        bytes={program?.bytes ?? null}
        marked={program?.insertedLines ?? NO_LINES}
        heightPx={Math.max(180, heightPx - 216)}
        onCursor={setCursorLine}
      />
      <LineMeaningCard client={client} line={cursorLine} version={program} />
    </div>
  );
}

/** The first marked line below what stands at the top of the view, round to the first again. */
function nextInserted({ insertedLines }: TrialProgram, top: number): number {
  return insertedLines.find((line) => line > top) ?? insertedLines[0];
}
