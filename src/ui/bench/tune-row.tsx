"use client";
import type { TuneStep } from "@/core/road/road";
import { LinkButton } from "../common/link-button";
import { When } from "../common/when";
import styles from "./bench-page.module.css";
import { StateMark } from "./state-mark";

/** A measured tune on the road: what it found, and the way to it. */
export function TuneRow({ step }: { step: TuneStep }) {
  const { key, label, question, state, found, at, why, refused, isNext } = step;
  return (
    <li className={`list-row ${styles.tune}`}>
      <h2>{label}</h2>
      <p className="dim">
        {found && at ? (
          <>
            <b>{found}</b>, <When at={at} />. {why.join(" ")}
          </>
        ) : (
          refused || question
        )}
      </p>
      <StateMark
        state={state}
        says={refused ? "not for this printer" : state === "never" ? "not measured" : undefined}
      />
      {refused ? (
        <span />
      ) : (
        <LinkButton className={isNext ? "go" : undefined} href={`/measure/${key}`}>
          {found ? "Again" : "Measure"}
        </LinkButton>
      )}
    </li>
  );
}
