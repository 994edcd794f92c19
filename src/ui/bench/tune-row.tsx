"use client";
import { PointedLink } from "../common/pointed-link";
import type { TuneStep } from "@/core/road/road";
import { LinkButton } from "../common/link-button";
import { When } from "../common/when";
import styles from "./bench-page.module.css";
import { StateMark } from "./state-mark";

/** A measured tune on the road: what it found, and the way to it. */
export function TuneRow({ step }: { step: TuneStep }) {
  const { key, label, question, state, found, at, why, refused, isNext } = step;
  return (
    <li id={key} className={`list-row ${styles.tune}`}>
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

/** Tunes that are good to have, in one row: what each found, or the way to it. */
export function AsidesRow({ steps }: { steps: TuneStep[] }) {
  const possible = steps.filter(({ refused }) => refused === "");
  if (possible.length === 0) return null;
  return (
    <li className={`list-row ${styles.asides}`}>
      <span className="dim">{possible.some(({ found }) => found) ? "Measured aside" : "Good to measure, too"}</span>
      <ul>
        {possible.map(({ key, label, found, why }) => (
          <li key={key}>
            <PointedLink href={`/measure/${key}`}>{label}</PointedLink>
            {found && <span className="dim"> {found}</span>}
            {why.length > 0 && <span> {why.join(" ")}</span>}
          </li>
        ))}
      </ul>
    </li>
  );
}
