"use client";
/** Shows what pages say; see `talk.ts`. */
import { App } from "antd";
import { useEffect, useRef } from "react";
import { Question, useTalk, useTell, Word } from "./talk";

const UNDO_FOR_S = 10;

export default function Talker() {
  return (
    <App component={false}>
      <Words />
    </App>
  );
}

/** What is lost by a yes is never one press of Enter away. */
function asDialog({ isDestructive, ...question }: Question) {
  return { ...question, autoFocusButton: isDestructive ? ("cancel" as const) : ("ok" as const) };
}

function Words() {
  const { message, modal } = App.useApp();
  const { words, take } = useTalk();
  const tell = useTell();
  const number = useRef(0);
  useEffect(() => {
    const show = (word: Word) => {
      switch (word.kind) {
        case "done":
          return void message.success(word.text);
        case "error":
          return void message.error(word.text);
        case "question":
          return void modal.confirm(asDialog(word.question)).then(word.answer, () => word.answer(false));
        case "undo": {
          const key = `undo-${number.current++}`;
          const undo = () => {
            message.destroy(key);
            word.undo().catch(tell.error);
          };
          const content = (
            <span>
              {word.text}{" "}
              <button className="link-button" onClick={undo}>
                Undo
              </button>
            </span>
          );
          return void message.open({ key, duration: UNDO_FOR_S, content });
        }
      }
    };
    take().forEach(show);
  }, [words, take, message, modal, tell]);
  return null;
}
