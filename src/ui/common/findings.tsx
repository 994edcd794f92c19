"use client";
import type { Finding, Mend } from "@/core/findings/finding";
import styles from "./findings.module.css";

interface Props {
  findings: Finding[];
  passed: string[];
  onMend(mend: Mend): void;
  /** Goes to the place a finding speaks of; null where that names no line and no layer. */
  onGo?(where: string): (() => void) | null;
}

const words = { stop: "Stop", warn: "Look", note: "Note" };

/** Findings, worst first, each with its mend; then what is in order. */
export function Findings({ findings, passed, onMend, onGo }: Props) {
  return (
    <div aria-live="polite">
      {findings.map(({ check, severity, where, message, mend, others = [] }, i) => (
        <div key={`${check}-${i}`} className={`finding ${severity}`}>
          <span className="where">
            {words[severity]} · <Place where={where} onGo={onGo?.(where) ?? null} />
          </span>
          {message}{" "}
          {[...(mend ? [mend] : []), ...others].map((one) => (
            <button key={one.label} className={`link-button ${styles.mend}`} onClick={() => onMend(one)}>
              {one.label}
            </button>
          ))}
        </div>
      ))}
      {passed.map((sentence) => (
        <div key={sentence} className="finding ok">
          {sentence}
        </div>
      ))}
    </div>
  );
}

/** A place, and the way there if there is one. */
export function Place({ where, onGo }: { where: string; onGo: (() => void) | null }) {
  if (!onGo) return where;
  return (
    <button className="link-button" onClick={onGo}>
      {where}
    </button>
  );
}
