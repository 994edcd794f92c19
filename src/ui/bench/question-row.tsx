"use client";
import { Button } from "antd";
import Link from "next/link";
import type { BenchRow } from "@/core/trials/bench-row";
import { plainNumber } from "@/core/units";
import { When } from "../common/when";
import { useStartTrial } from "../trials/start-trial";
import styles from "./bench-page.module.css";
import { RangeScale } from "./range-scale";

/** One question of the bench: what it finds out, what is kept or was asked, and the button that asks it. */
export function QuestionRow({ row, printerId, spoolId }: { row: BenchRow; printerId: number; spoolId: number }) {
  const { kind, label, says, explains, kept, unit, decimals, latest, count, needs, isNext } = row;
  const { start, starting } = useStartTrial();
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
            </>
          ) : (
            `Not asked yet for this pair.${needs ? ` Settle first: ${needs}.` : ""}`
          )}
        </p>
      </div>
      <RangeScale row={row} />
      <Button
        className={isNext ? "go" : undefined}
        size="large"
        loading={starting}
        onClick={() => void start(kind, printerId, spoolId)}
      >
        {latest ? "Ask again" : "Ask"}
      </Button>
    </li>
  );
}
