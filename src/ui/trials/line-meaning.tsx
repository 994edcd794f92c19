"use client";
/** The line under the cursor, word by word, and what holds there. */
import { useEffect, useState } from "react";
import type { TrialClient } from "@/workers/trial-client";
import type { LineMeaning } from "@/workers/trial-messages";
import { Facts } from "../common/facts";
import styles from "./line-meaning.module.css";

/** Moving through the text asks once it rests. */
const RESTS_MS = 120;

/** What the line (from 0) means; asked of the worker when the cursor has come to rest. */
function useMeaning(client: TrialClient | null, line: number, version: unknown): LineMeaning | null {
  const [meaning, setMeaning] = useState<LineMeaning | null>(null);
  useEffect(() => {
    let current = true;
    const timer = setTimeout(() => {
      void client?.meaningOf(line).then((next) => current && setMeaning(next));
    }, RESTS_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [client, line, version]);
  return meaning;
}

export function LineMeaningCard({
  client,
  line,
  version,
}: {
  client: TrialClient | null;
  line: number;
  /** Another one for every built program. */
  version: unknown;
}) {
  const meaning = useMeaning(client, line, version);
  return <MeaningOf line={line} words={meaning?.words ?? null} holds={meaning?.holds ?? []} />;
}

/** A line's words, and what the machine holds behind it. */
export function MeaningOf({
  line,
  words,
  holds,
}: {
  line: number;
  words: LineMeaning["words"] | null;
  holds: LineMeaning["holds"];
}) {
  // A comment stands in full in the line itself.
  const parts = (words?.parts ?? []).filter(({ text }) => !text.startsWith(";"));
  return (
    <section className={`card ${styles.meaning}`} aria-label="The line under the cursor" aria-live="polite">
      <div>
        <h2>Line {line + 1}</h2>
        {parts.length === 0 && <p>{words?.title || "…"}</p>}
        <Facts rows={parts.map(({ text, means }): [string, string] => [text, means])} />
      </div>
      <div>
        <h2>What holds here</h2>
        <Facts rows={holds.map(({ label, text }): [string, string] => [label, text])} />
      </div>
    </section>
  );
}
