"use client";
/** The text of a program, read only, with some of its lines marked. */
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
import { Ref, useEffect, useImperativeHandle, useRef } from "react";

const marked = Decoration.line({ class: "cm-inserted" });
const setMarked = StateEffect.define<ArrayLike<number>>();

const markedLines = StateField.define<DecorationSet>({
  create: () => Decoration.none,
  update(decorations, transaction) {
    for (const effect of transaction.effects) {
      if (!effect.is(setMarked)) continue;
      const builder = new RangeSetBuilder<Decoration>();
      for (const line of Array.from(effect.value)) {
        if (line >= transaction.state.doc.lines) continue;
        const { from } = transaction.state.doc.line(line + 1);
        builder.add(from, from, marked);
      }
      return builder.finish();
    }
    return decorations.map(transaction.changes);
  },
  provide: (field) => EditorView.decorations.from(field),
});

const look = EditorView.theme({
  "&": { height: "100%", fontSize: "12.5px", color: "var(--ink)", backgroundColor: "var(--surface)" },
  ".cm-scroller": { fontFamily: '"JetBrains Mono Variable", "JetBrains near", monospace' },
  ".cm-gutters": { backgroundColor: "var(--surface)", color: "var(--faint)", border: "none" },
  ".cm-inserted": { backgroundColor: "color-mix(in srgb, var(--mustard) 30%, transparent)", fontWeight: "650" },
  "&.cm-focused": { outline: "2px solid var(--mustard)" },
  ".cm-panels": { backgroundColor: "var(--tint)", color: "var(--ink)" },
});

export interface ProgramTextHandle {
  /** Shows a line (from 0) near the top, with the cursor on it. */
  goTo(line: number): void;
  /** First line (from 0) in sight. */
  topLine(): number;
}

interface Props {
  ref?: Ref<ProgramTextHandle>;
  bytes: Uint8Array | null;
  /** Lines (from 0) that are marked, rising. */
  marked: ArrayLike<number>;
  heightPx: number;
  onCursor?(line: number): void;
}

export function ProgramText({ ref, bytes, marked: lines, heightPx, onCursor }: Props) {
  const host = useRef<HTMLDivElement>(null);
  const editor = useRef<EditorView | null>(null);
  const heard = useRef(onCursor);
  heard.current = onCursor;

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
          markedLines,
          EditorView.updateListener.of(({ state, selectionSet }) => {
            if (selectionSet) heard.current?.(state.doc.lineAt(state.selection.main.head).number - 1);
          }),
          look,
        ],
      }),
    });
    editor.current = made;
    return () => made.destroy();
  }, []);

  useEffect(() => {
    if (!bytes || !editor.current) return;
    const insert = new TextDecoder().decode(bytes);
    editor.current.dispatch({ changes: { from: 0, to: editor.current.state.doc.length, insert } });
  }, [bytes]);
  useEffect(() => {
    editor.current?.dispatch({ effects: setMarked.of(lines) });
  }, [bytes, lines]);

  useImperativeHandle(ref, () => ({
    goTo(line) {
      const made = editor.current;
      if (!made || line < 0 || line >= made.state.doc.lines) return;
      const { from } = made.state.doc.line(line + 1);
      made.dispatch({
        selection: { anchor: from },
        effects: EditorView.scrollIntoView(from, { y: "start", yMargin: 40 }),
      });
    },
    topLine() {
      const made = editor.current;
      if (!made) return 0;
      return made.state.doc.lineAt(made.lineBlockAtHeight(made.scrollDOM.scrollTop + 60).from).number - 1;
    },
  }));
  return <div ref={host} className="card" style={{ height: heightPx, padding: 0, overflow: "hidden" }} />;
}
