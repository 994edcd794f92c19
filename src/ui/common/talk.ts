"use client";
/** What a page says besides itself: short messages, questions, and a way back. Shown by the talker, which is loaded with the first word. */
import { ReactNode } from "react";
import { create } from "zustand";
import { ApiError } from "./api";

export interface Question {
  title: ReactNode;
  content?: ReactNode;
  okText?: string;
  cancelText?: string;
  /** Something is lost by a yes: then “no” has the focus. */
  isDestructive?: boolean;
}

export type Word =
  | { kind: "done"; text: string }
  | { kind: "error"; text: string }
  /** Something was removed; `undo` puts it back. */
  | { kind: "undo"; text: string; undo(): Promise<void> }
  | { kind: "question"; question: Question; answer(sure: boolean): void };

interface Talk {
  words: Word[];
  say(word: Word): void;
  /** Hands over what waits. */
  take(): Word[];
}

export const useTalk = create<Talk>((set, get) => ({
  words: [],
  say: (word) => set(({ words }) => ({ words: [...words, word] })),
  take() {
    const { words } = get();
    if (words.length > 0) set({ words: [] });
    return words;
  },
}));

const { say } = useTalk.getState();

const tell = {
  /** Shows an error's sentence. */
  error: (error: unknown) =>
    say({ kind: "error", text: error instanceof ApiError ? error.message : "Something went wrong." }),
  done: (text: string) => say({ kind: "done", text }),
  undo: (text: string, undo: () => Promise<void>) => say({ kind: "undo", text, undo }),
};

/** Says that something was done, or what went wrong. */
export const useTell = () => tell;

const ask = (question: Question) =>
  new Promise<boolean>((answer) => say({ kind: "question", question, answer: (sure) => answer(sure) }));

/** Asks a question that must be answered first; gives whether it was answered with yes. */
export const useAsk = () => ask;
