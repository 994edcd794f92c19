"use client";
import type { Finding, Mend } from "@/core/findings/finding";
import styles from "./findings.module.css";

interface Props {
  findings: Finding[];
  passed: string[];
  onMend(mend: Mend): void;
}

const words = { stop: "Stop", warn: "Look", note: "Note" };

/** Findings, worst first, each with its mend; then what is in order. */
export function Findings({ findings, passed, onMend }: Props) {
  return (
    <div aria-live="polite">
      {findings.map(({ check, severity, where, message, mend, others = [] }, i) => (
        <div key={`${check}-${i}`} className={`finding ${severity}`}>
          <span className="where">
            {words[severity]} · {where}
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
