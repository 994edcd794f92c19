"use client";
/** The program's text, read only, with the lines the plan put in marked. */
import { search, searchKeymap } from "@codemirror/search";
import { EditorState, RangeSetBuilder, StateEffect, StateField } from "@codemirror/state";
import {
  Decoration,
  DecorationSet,
  drawSelection,
  EditorView,
  highlightSpecialChars,
  keymap,
  lineNumbers,
} from "@codemirror/view";
import { useEffect, useRef, useState } from "react";
import type { TrialClient } from "@/workers/trial-client";
import type { TrialProgram, TrialView } from "@/workers/trial-messages";
import { LineMeaningCard } from "./line-meaning";

const inserted = Decoration.line({ class: "cm-inserted" });
const setInserted = StateEffect.define<number[]>();

const insertedLines = StateField.define<DecorationSet>({
  create: () => Decoration.none,
  update(decorations, transaction) {
    for (const effect of transaction.effects) {
      if (!effect.is(setInserted)) continue;
      const builder = new RangeSetBuilder<Decoration>();
      for (const line of effect.value) {
        if (line >= transaction.state.doc.lines) continue;
        const { from } = transaction.state.doc.line(line + 1);
        builder.add(from, from, inserted);
      }
      return builder.finish();
    }
    return decorations.map(transaction.changes);
  },
  provide: (field) => EditorView.decorations.from(field),
});

const look = EditorView.theme({
  "&": { height: "100%", fontSize: "12.5px", color: "var(--ink)", backgroundColor: "var(--surface)" },
  ".cm-scroller": { fontFamily: '"JetBrains Mono Variable", monospace' },
  ".cm-gutters": { backgroundColor: "var(--surface)", color: "var(--faint)", border: "none" },
  ".cm-inserted": { backgroundColor: "color-mix(in srgb, var(--mustard) 30%, transparent)", fontWeight: "650" },
  "&.cm-focused": { outline: "2px solid var(--mustard)" },
  ".cm-panels": { backgroundColor: "var(--tint)", color: "var(--ink)" },
});

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
  const host = useRef<HTMLDivElement>(null);
  const editor = useRef<EditorView | null>(null);
  const [program, setProgram] = useState<TrialProgram | null>(null);
  const [cursorLine, setCursorLine] = useState(0);

  useEffect(() => {
    const made = new EditorView({
      parent: host.current!,
      state: EditorState.create({
        extensions: [
          lineNumbers(),
          drawSelection(),
          highlightSpecialChars(),
          EditorState.readOnly.of(true),
          EditorView.contentAttributes.of({ "aria-label": "Program text", tabindex: "0" }),
          search({ top: true }),
          keymap.of(searchKeymap),
          insertedLines,
          EditorView.updateListener.of(({ state, selectionSet }) => {
            if (selectionSet) setCursorLine(state.doc.lineAt(state.selection.main.head).number - 1);
          }),
          look,
        ],
      }),
    });
    editor.current = made;
    return () => made.destroy();
  }, []);

  useEffect(() => {
    let current = true;
    void client?.program().then((next) => current && next && setProgram(next));
    return () => {
      current = false;
    };
  }, [client, view]);

  useEffect(() => {
    if (!program || !editor.current) return;
    const text = new TextDecoder().decode(program.bytes);
    editor.current.dispatch({ changes: { from: 0, to: editor.current.state.doc.length, insert: text } });
    editor.current.dispatch({ effects: setInserted.of(program.insertedLines) });
  }, [program]);

  const goTo = (line: number) => {
    const made = editor.current;
    if (!made || line < 0 || line >= made.state.doc.lines) return;
    made.dispatch({
      selection: { anchor: made.state.doc.line(line + 1).from },
      effects: EditorView.scrollIntoView(made.state.doc.line(line + 1).from, { y: "start", yMargin: 40 }),
    });
  };
  return (
    <div>
      <p className="dim line below">
        <span>Lines the plan put in are marked.</span>
        <button className="link-button" onClick={() => goTo(program?.layerLines[layer] ?? 0)}>
          Go to layer {layer + 1}
        </button>
        {program && program.insertedLines.length > 0 && (
          <button className="link-button" onClick={() => goTo(nextInserted(program, editor.current))}>
            Next marked line
          </button>
        )}
        <span>
          <kbd>Ctrl</kbd> <kbd>F</kbd> searches
        </span>
      </p>
      <div
        ref={host}
        className="card"
        style={{ height: Math.max(180, heightPx - 216), padding: 0, overflow: "hidden" }}
      />
      <LineMeaningCard client={client} line={cursorLine} version={program} />
    </div>
  );
}

/** The first marked line below what stands at the top of the view, round to the first again. */
function nextInserted(program: TrialProgram, view: EditorView | null): number {
  if (!view) return -1;
  const top = view.state.doc.lineAt(view.lineBlockAtHeight(view.scrollDOM.scrollTop + 60).from).number - 1;
  return program.insertedLines.find((line) => line > top) ?? program.insertedLines[0];
}
