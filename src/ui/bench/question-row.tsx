"use client";
import { Button } from "antd";
import Link from "next/link";
import type { BenchRow } from "@/core/trials/bench-row";
import type { Effort } from "@/core/trials/effort";
import { plainNumber } from "@/core/units";
import { When } from "../common/when";
import { useStartTrial } from "../trials/start-trial";
import styles from "./bench-page.module.css";
import { sayEffort } from "./say-effort";
import { RangeScale } from "./range-scale";

interface Props {
  row: BenchRow;
  /** What its first round takes, as soon as it is known. */
  effort: Effort | undefined;
  printerId: number;
  spoolId: number;
}

/** One question of the bench: what it finds out, what is kept or was asked, and the button that asks it. */
export function QuestionRow({ row, effort, printerId, spoolId }: Props) {
  const { kind, label, says, explains, kept, unit, decimals, latest, count, needs, isNext } = row;
  const { start, starting } = useStartTrial();
  const isWaiting = latest?.state === "printed" || latest?.state === "read";
  return (
    <li className={`list-row ${styles.question}`}>
      <div>
        <h2>{label}</h2>
        <p className={`dim ${styles.says}`} title={explains}>
          {says}
        </p>
        <p className={`dim ${styles.state}`}>
          {kept && (
            <>
              <b>
                Kept: {plainNumber(kept.value, decimals)} {unit}
              </b>
              , <When at={kept.keptAt} />.{" "}
            </>
          )}
          {latest ? (
            <>
              {count === 1 ? "One trial" : `${count} trials`}, the last <When at={latest.updatedAt} />:{" "}
              <Link href={`/trials/${latest.id}`}>{latest.name}</Link>
              {isWaiting && (
                <>
                  . <b>{latest.state === "read" ? "It is read, and nothing is kept yet:" : "It is printed:"}</b>{" "}
                  <Link href={`/trials/${latest.id}?step=read`}>
                    {latest.state === "read" ? "look at the verdict" : "read it"}
                  </Link>
                </>
              )}
            </>
          ) : (
            `Not asked yet for this pair.${needs ? ` Settle first: ${needs}.` : ""}`
          )}
        </p>
      </div>
      <RangeScale row={row} />
      <div>
        <Button
          className={isNext ? "go" : undefined}
          size="large"
          block
          loading={starting}
          onClick={() => void start(kind, printerId, spoolId)}
        >
          {latest ? "Ask again" : "Ask"}
        </Button>
        <p className={`dim ${styles.effort}`}>{effort ? sayEffort([effort]) : "\u00a0"}</p>
      </div>
    </li>
  );
}
