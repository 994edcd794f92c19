"use client";
/** The text of a program while it is written: commands complete themselves from the table of what printers understand. */
import { autocompletion, CompletionContext, CompletionResult, completionKeymap } from "@codemirror/autocomplete";
import { defaultKeymap, history, historyKeymap } from "@codemirror/commands";
import { searchKeymap } from "@codemirror/search";
import { EditorState } from "@codemirror/state";
import { drawSelection, EditorView, highlightActiveLine, keymap, lineNumbers } from "@codemirror/view";
import { Ref, useEffect, useImperativeHandle, useRef } from "react";
import { commandFor, completions } from "@/core/machine/commands";
import type { Printer } from "@/core/shelf/printer";

export interface EditorHandle {
  /** Puts lines in where the cursor is. */
  insert(text: string): void;
  /** Goes to a line, from 0. */
  goTo(line: number): void;
}

interface Props {
  ref: Ref<EditorHandle>;
  text: string;
  printer: Printer;
  onText(text: string): void;
  onLine(line: number): void;
}

const MOST_COMPLETIONS = 12;

const look = EditorView.theme({
  "&": { height: "380px", fontSize: "13.5px", color: "var(--ink)", backgroundColor: "var(--surface)" },
  ".cm-scroller": { fontFamily: '"JetBrains Mono Variable", "JetBrains near", monospace', lineHeight: "1.55" },
  ".cm-content": { caretColor: "var(--ink)" },
  ".cm-cursor": { borderLeftColor: "var(--ink)", borderLeftWidth: "2px" },
  ".cm-gutters": { backgroundColor: "var(--surface)", color: "var(--faint)", border: "none" },
  ".cm-activeLine": { backgroundColor: "color-mix(in srgb, var(--mustard) 18%, transparent)" },
  "&.cm-focused": { outline: "2px solid var(--mustard)" },
  ".cm-tooltip": { backgroundColor: "var(--raised)", color: "var(--ink)", border: "1px solid var(--line)" },
  ".cm-tooltip-autocomplete ul li[aria-selected]": { backgroundColor: "var(--tint)", color: "var(--ink)" },
  ".cm-completionDetail": { fontStyle: "normal", color: "var(--soft)", marginLeft: "12px" },
});

/** Commands at the beginning of a line, and the words of the command behind it. */
function complete({ state, pos, explicit, matchBefore }: CompletionContext): CompletionResult | null {
  const { from, text } = state.doc.lineAt(pos);
  const before = text.slice(0, pos - from);
  const beginning = /^\s*([A-Za-z]\w*)?$/.exec(before);
  if (beginning) {
    const typed = beginning[1] ?? "";
    if (typed === "" && !explicit) return null;
    return {
      from: pos - typed.length,
      filter: false,
      options: completions(typed === "" ? "G" : typed, MOST_COMPLETIONS).map(({ code, does, example }) => ({
        label: code,
        detail: does,
        apply: example ?? code,
      })),
    };
  }
  const command = commandFor(/^\s*(\w+)/.exec(before)?.[1] ?? "");
  const word = matchBefore.call({ state, pos } as CompletionContext, /\w*/);
  if (!command?.words || (!explicit && word?.from === word?.to)) return null;
  const said = new Set([...before.matchAll(/\s([A-Za-z])-?[\d.]/g)].map(([, letter]) => letter.toUpperCase()));
  return {
    from: word?.from ?? pos,
    options: Object.entries(command.words)
      .filter(([letter]) => !said.has(letter))
      .map(([label, detail]) => ({ label, detail })),
  };
}

export function ProgramEditor({ ref, text, printer, onText, onLine }: Props) {
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const heard = useRef({ onText, onLine });
  heard.current = { onText, onLine };
  const first = useRef(text);
  useEffect(() => {
    const made = new EditorView({
      parent: host.current!,
      state: EditorState.create({
        doc: first.current,
        extensions: [
          lineNumbers(),
          drawSelection(),
          highlightActiveLine(),
          history(),
          autocompletion({ override: [complete] }),
          EditorView.contentAttributes.of({ "aria-label": "Program text" }),
          // Tab leaves the text, as it does every field.
          keymap.of([...completionKeymap, ...defaultKeymap, ...historyKeymap, ...searchKeymap]),
          EditorView.updateListener.of(({ state, docChanged, selectionSet }) => {
            if (docChanged) heard.current.onText(state.doc.toString());
            if (docChanged || selectionSet)
              heard.current.onLine(state.doc.lineAt(state.selection.main.head).number - 1);
          }),
          look,
        ],
      }),
    });
    view.current = made;
    return () => made.destroy();
  }, []);
  // What came from elsewhere takes the text's place.
  useEffect(() => {
    const made = view.current;
    if (!made || made.state.doc.toString() === text) return;
    made.dispatch({ changes: { from: 0, to: made.state.doc.length, insert: text } });
  }, [text]);
  useImperativeHandle(ref, () => ({
    insert(lines) {
      const made = view.current!;
      const { to, text: own } = made.state.doc.lineAt(made.state.selection.main.head);
      const insert = own === "" ? `${lines}\n` : `\n${lines}\n`;
      made.dispatch({ changes: { from: to, insert }, selection: { anchor: to + insert.length }, scrollIntoView: true });
      made.focus();
    },
    goTo(line) {
      const made = view.current!;
      const { from } = made.state.doc.line(Math.max(1, Math.min(made.state.doc.lines, line + 1)));
      made.dispatch({ selection: { anchor: from }, scrollIntoView: true });
    },
  }));
  return <div ref={host} className="card" style={{ padding: 0, overflow: "hidden" }} data-printer={printer.dialect} />;
}
