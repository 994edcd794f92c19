"use client";
/** A program tried: line by line or to its end, on a simulated printer in the page, or on the linked one after asking. */
import { Button } from "antd";
import { useEffect, useRef, useState } from "react";
import type { Printer } from "@/core/shelf/printer";
import { Tried, TryOut } from "@/core/typed/try-out";
import { plainNumber, sayDuration } from "@/core/units";
import { api } from "../common/api";
import { useAsk } from "../common/talk";
import { useAct } from "../common/use-act";
import { useLinks } from "../printer/link-queries";
import styles from "./program-page.module.css";

interface Props {
  lines: readonly string[];
  printer: Printer & { id: number };
  /** Where the nozzle of the simulated printer stands; null as long as nothing is tried. */
  onPlace(place: Tried["place"] | null): void;
  onLine(line: number): void;
}

/** The page has its turn after so long, ms. */
const SLICE_MS = 30;

export function TryCard({ lines, printer, onPlace, onLine }: Props) {
  const [tried, setTried] = useState<Tried | null>(null);
  const [isRunning, setRunning] = useState(false);
  const trial = useRef<TryOut | null>(null);
  const show = (of: TryOut) => {
    const state = of.state;
    setTried(state);
    onPlace(state.place);
    onLine(Math.min(state.next, lines.length - 1));
  };
  // Another text is another program: what was tried of the old one says nothing about it.
  const text = lines.join("\n");
  const forget = useRef(() => undefined as void);
  forget.current = () => {
    trial.current = null;
    setTried(null);
    setRunning(false);
    onPlace(null);
  };
  useEffect(() => forget.current(), [text, printer]);
  const current = () => (trial.current ??= new TryOut(printer, lines));
  const step = () => {
    const of = current();
    // Lines that say nothing are passed.
    do of.step();
    while (!of.isDone && lines[of.state.next - 1].replace(/;.*$/, "").trim() === "");
    show(of);
  };
  useEffect(() => {
    if (!isRunning) return;
    const of = current();
    const timer = setInterval(() => {
      const until = performance.now() + SLICE_MS;
      while (!of.isDone && performance.now() < until) of.step();
      show(of);
      if (of.isDone) setRunning(false);
    }, 0);
    return () => clearInterval(timer);
    // The rest is another with every key stroke, and then nothing runs any more.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [isRunning]);
  const isDone = trial.current?.isDone ?? false;
  return (
    <section className="card" aria-label="Try it">
      <h2>Try it</h2>
      <div className={styles.acts}>
        <Button size="small" onClick={step} disabled={isRunning || isDone}>
          Next line
        </Button>
        <Button size="small" onClick={() => setRunning(!isRunning)} disabled={isDone}>
          {isRunning ? "Stop" : "To the end"}
        </Button>
        {tried && (
          <Button size="small" onClick={() => forget.current()}>
            Start over
          </Button>
        )}
      </div>
      {tried ? <Outcome tried={tried} count={lines.length} /> : <p className="dim">On a simulated {printer.name}.</p>}
      <OnLinked lines={lines} printer={printer} />
    </section>
  );
}

function Outcome({ tried, count }: { tried: Tried; count: number }) {
  const { next, talk, nozzleC, bedC, seconds, isHalted, waits } = tried;
  return (
    <>
      <p className="dim" aria-live="polite">
        {isHalted ? "It has stopped for good. " : next >= count ? "At its end. " : `Line ${next} of ${count}. `}
        {sayDuration(seconds)}, nozzle {plainNumber(nozzleC, 0)} °C, bed {plainNumber(bedC, 0)} °C.
        {waits && " It waited for a person there."}
      </p>
      <ol className={`rows mono ${styles.talk}`} aria-label="What was sent and what came back">
        {talk.slice(-8).map(({ line, sent, heard }) => (
          <li key={line}>
            {sent}
            <span className="dim">
              {" "}
              →{" "}
              {heard
                .filter((one) => !one.startsWith("echo:busy"))
                .slice(-2)
                .join(" | ") || "…"}
            </span>
          </li>
        ))}
      </ol>
    </>
  );
}

function OnLinked({ lines, printer }: Pick<Props, "lines" | "printer">) {
  const { data: links } = useLinks();
  const ask = useAsk();
  const { busy, act } = useAct();
  const isLinked = links?.some(({ printerId, state }) => printerId === printer.id && state === "open");
  if (!isLinked) return null;
  const commands = lines.map((line) => line.replace(/;.*$/, "").trim()).filter(Boolean);
  const send = () =>
    act(async () => {
      const sure = await ask({
        title: `Send ${commands.length} lines to ${printer.name} now?`,
        content: "The printer that is linked carries them out at once, one after the other.",
        okText: "Send them",
      });
      if (sure) await api.post("/link/lines", { printerId: printer.id, lines: commands, source: "console" });
    });
  return (
    <Button size="small" loading={busy} disabled={commands.length === 0} onClick={() => void send()}>
      On the linked {printer.name} …
    </Button>
  );
}
