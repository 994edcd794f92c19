"use client";
/** A sheet worked out away from the page: laid with every key stroke, looked at from all sides a moment later. */
import { useCallback, useEffect, useRef, useState } from "react";
import type { SheetInput } from "@/core/sheets/program";
import { SheetClient } from "@/workers/sheet-client";
import type { SheetInspection, SheetView } from "@/workers/sheet-messages";
import type { Wrong } from "./sheet-context";

/** A layout that takes longer is given up for a newer one; checks sooner, for they take longest. */
const LAYING_PATIENCE_MS = 400;
const CHECKING_PATIENCE_MS = 300;
/** Checks begin when the hand rests for so long. */
const REST_MS = 150;
/** Nothing is said of work that is over in a moment. */
const QUIET_MS = 350;

export interface SheetWork {
  /** The last that could be laid: it stays while a formula is being typed. */
  view: SheetView | null;
  wrong: Wrong | null;
  /** The last that was looked at; null before the first. */
  inspection: SheetInspection | null;
  /** Whether that is of the sheet as it stands. */
  isChecked: boolean;
  /** Moves laid so far, while it takes long. */
  progress: number | null;
  isStopped: boolean;
  stop(): void;
  goOn(): void;
}

export function useSheetWork(input: SheetInput): SheetWork {
  const [view, setView] = useState<SheetView | null>(null);
  const [wrong, setWrong] = useState<Wrong | null>(null);
  const [inspected, setInspected] = useState<{ of: SheetInput; inspection: SheetInspection } | null>(null);
  const [progress, setProgress] = useState<number | null>(null);
  const [isStopped, setStopped] = useState(false);
  const clients = useRef<{ lays: SheetClient; inspects: SheetClient } | null>(null);
  const started = useRef(0);

  useEffect(() => {
    let resting: ReturnType<typeof setTimeout> | undefined;
    const lays = new SheetClient(
      "lay",
      (answer, of) => {
        setProgress(null);
        if (answer.kind === "laid") {
          setView(answer.view);
          setWrong(null);
          clearTimeout(resting);
          resting = setTimeout(() => inspects.request(of), REST_MS);
        } else if (answer.kind === "wrong") setWrong({ field: answer.field, message: answer.message });
        else if (answer.kind === "failed") setWrong({ field: "", message: answer.message });
      },
      (moves) => performance.now() - started.current > QUIET_MS && setProgress(moves),
      LAYING_PATIENCE_MS,
    );
    const inspects = new SheetClient(
      "inspect",
      (answer, of) => {
        if (answer.kind === "inspected") setInspected({ of, inspection: answer.inspection });
        // It can be laid, and still come to no program: a name in the printer's start lines that stands for nothing, say.
        else if (answer.kind === "wrong") setWrong({ field: answer.field, message: answer.message });
        else if (answer.kind === "failed") setWrong({ field: "", message: answer.message });
      },
      () => undefined,
      CHECKING_PATIENCE_MS,
    );
    clients.current = { lays, inspects };
    return () => {
      clearTimeout(resting);
      lays.close();
      inspects.close();
    };
  }, []);

  const begin = useCallback(() => {
    started.current = performance.now();
    setStopped(false);
    clients.current?.lays.request(input);
  }, [input]);
  useEffect(begin, [begin]);

  const stop = useCallback(() => {
    clients.current?.lays.close();
    clients.current?.inspects.close();
    setProgress(null);
    setStopped(true);
  }, []);
  const isChecked = inspected?.of === input && !wrong;
  return { view, wrong, inspection: inspected?.inspection ?? null, isChecked, progress, isStopped, stop, goOn: begin };
}
