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
  // A comment stands in full in the line itself.
  const parts = (meaning?.words.parts ?? []).filter(({ text }) => !text.startsWith(";"));
  return (
    <section className={`card ${styles.meaning}`} aria-label="The line under the cursor" aria-live="polite">
      <div>
        <h2>Line {line + 1}</h2>
        {parts.length === 0 && <p>{meaning?.words.title || "…"}</p>}
        <Facts rows={parts.map(({ text, means }): [string, string] => [text, means])} />
      </div>
      <div>
        <h2>What holds here</h2>
        <Facts rows={(meaning?.holds ?? []).map(({ label, text }): [string, string] => [label, text])} />
      </div>
    </section>
  );
}
