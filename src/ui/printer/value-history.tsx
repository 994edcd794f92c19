"use client";
import dayjs from "dayjs";
import { valueFor } from "@/core/firmware/values";
import type { ValueChange } from "@/core/link/state";
import { plainNumber } from "@/core/units";

const words: Record<ValueChange["state"], string> = {
  tried: "set, not saved",
  refused: "not taken",
  saved: "saved",
  "put back": "put back",
  lost: "lost with the power, never saved",
};

/** Every change with its date, from, to and why. */
export function ValueHistory({ changes }: { changes: ValueChange[] }) {
  if (changes.length === 0) return null;
  return (
    <section className="card" aria-label="Changes">
      <h2>Changes</h2>
      <ol className="history">
        {changes.slice(0, 12).map(({ id, valueId, from, to, why, state, changedAt }) => {
          const definition = valueFor(valueId)?.definition;
          return (
            <li key={id}>
              <span className="dim">{dayjs(changedAt).format("D MMM, HH:mm")}</span> {definition?.label ?? valueId}{" "}
              <span className="mono">
                {from === null ? "" : `${plainNumber(from, 4)} → `}
                {plainNumber(to, 4)}
              </span>
              , {words[state]}
              {why && <span className="dim"> · {why}</span>}
            </li>
          );
        })}
      </ol>
    </section>
  );
}
