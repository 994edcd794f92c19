"use client";
import { Button } from "antd";
import { PointedLink } from "../common/pointed-link";
import type { TrialStep } from "@/core/road/road";
import type { FirstPiece } from "@/core/trials/effort";
import { plainNumber } from "@/core/units";
import { PictureBox } from "../common/lazy-picture";
import { LinkButton } from "../common/link-button";
import { When } from "../common/when";
import { useStartTrial } from "../trials/start-trial";
import styles from "./bench-page.module.css";
import { sayEffort } from "./say-effort";
import { RangeScale } from "./range-scale";
import { StateMark } from "./state-mark";

/** Room for the piece of a question. */
const PIECE = { widthPx: 84, heightPx: 56 };

interface Props {
  step: TrialStep;
  /** The piece of its first round, as soon as it is built. */
  piece: FirstPiece | undefined;
  printerId: number;
  spoolId: number;
}

/** One question of the bench: what it finds out, how far it has come, and the button that asks it or goes on. */
export function QuestionRow({ step, piece, printerId, spoolId }: Props) {
  const { row, state, why, isNext, found } = step;
  const { kind, label, says, explains, kept, decimals, unit, latest, count, needs } = row;
  const { start, starting } = useStartTrial();
  const go = isNext ? "go" : undefined;
  return (
    <li id={kind} className={`list-row ${styles.question}`}>
      <PictureBox picture={piece?.thumbnail} box={PIECE} winner={kept?.value} />
      <div>
        <h2>
          {label} <StateMark state={state} />
        </h2>
        <p className={`dim ${styles.says}`} title={explains}>
          {says}
        </p>
        <p className={`dim ${styles.state}`}>
          {kept && (
            <>
              <b>{state === "carried" ? `Taken over: ${found}` : `Kept: ${found}`}</b>
              {kept.fromValue !== null && kept.toValue !== null && kept.fromValue < kept.toValue && (
                <>
                  , good from {plainNumber(kept.fromValue, decimals + 1)} to {plainNumber(kept.toValue, decimals + 1)}{" "}
                  {unit}
                </>
              )}
              , <When at={kept.keptAt} />.{" "}
              {state === "carried" && "It was not tried here: the first round asks narrowly around it. "}
            </>
          )}
          {why.map((one) => (
            <span key={one} className={styles.why}>
              {one}{" "}
            </span>
          ))}
          {latest ? (
            <>
              {count === 1 ? "One trial" : `${count} trials`}, the last <When at={latest.updatedAt} />:{" "}
              <PointedLink href={`/trials/${latest.id}`}>{latest.name}</PointedLink>.
            </>
          ) : (
            !kept && !row.expected && `Not asked yet for this pair.${needs ? ` Settle first: ${needs}.` : ""}`
          )}
        </p>
        {row.expected && (
          <p className={`dim ${styles.state}`}>
            {row.expected.why}. Expected here: {plainNumber(row.expected.fromValue, decimals + 1)} to{" "}
            {plainNumber(row.expected.toValue, decimals + 1)} {unit}.{" "}
            {row.expected.isAsked && (
              <Button
                size="small"
                loading={starting}
                onClick={() => void start(kind, printerId, spoolId, { whole: true })}
              >
                Ask the whole range
              </Button>
            )}
          </p>
        )}
      </div>
      <RangeScale row={row} />
      <div>
        {state === "waiting" && latest ? (
          <LinkButton className={go} block href={`/trials/${latest.id}?step=read`}>
            {latest.state === "read" ? "Read on" : "Read it"}
          </LinkButton>
        ) : (
          <Button className={go} block loading={starting} onClick={() => void start(kind, printerId, spoolId)}>
            {latest || kept ? "Ask again" : "Ask"}
          </Button>
        )}
        <p className={`dim ${styles.effort}`}>{piece ? sayEffort([piece]) : "\u00a0"}</p>
      </div>
    </li>
  );
}
