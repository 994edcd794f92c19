"use client";
/** How far a pair is, at a glance: one stretch a step, in the order of work, with what was found. */
import type { RoadStep } from "@/core/road/road";
import styles from "./road-strip.module.css";
import { stateWords } from "./state-mark";

export function RoadStrip({ road }: { road: readonly RoadStep[] }) {
  const steps = road.filter((step) => step.what === "trial" || (!step.isAside && step.refused === ""));
  const settled = steps.filter(({ state }) => state === "kept").length;
  const next = steps.find(({ isNext }) => isNext);
  return (
    <nav className={styles.strip} aria-label="How far this pair is">
      <p>
        <b>
          {settled} of {steps.length} settled
        </b>
        {next && `, next: ${next.label.toLowerCase()}`}
      </p>
      <div className={styles.road}>
        {steps.map((step) => (
          <a key={step.key} href={`#${step.key}`} data-state={step.isNext ? "next" : step.state}>
            <span className={`wide-only ${styles.label}`}>{step.label}</span>
            <span className={`wide-only mono ${styles.found}`}>
              {sayFound(step) || <span className="visually-hidden">{stateWords[step.state]}</span>}
            </span>
          </a>
        ))}
      </div>
    </nav>
  );
}

/** What was found, without its name, which stands above it; nothing where it does not count. */
function sayFound({ state, found, label }: RoadStep): string {
  if (state !== "kept" && state !== "carried") return "";
  return found.startsWith(label) ? found.slice(label.length).trim() : found;
}
