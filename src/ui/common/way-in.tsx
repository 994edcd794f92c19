"use client";
/** The way in, while there is no printer or no spool: three steps, each with what it is for. */
import { LinkButton } from "./link-button";
import { usePrinters, useSpools } from "./queries";
import styles from "./way-in.module.css";

export function WayIn() {
  const printers = usePrinters().data ?? [];
  const spools = useSpools().data ?? [];
  const steps = [
    {
      what: "Your printer",
      why: "So that every file fits its bed, its limits and its firmware.",
      act: "Add a printer",
      href: "/shelf/printers/new",
      isDone: printers.length > 0,
      done: printers.map(({ name }) => name).join(", "),
    },
    {
      what: "Your spool",
      why: "So that a test starts from the temperatures on its label.",
      act: "Add a spool",
      href: "/shelf/spools/new",
      isDone: spools.length > 0,
      done: spools.map(({ name }) => name).join(", "),
    },
    {
      what: "Your first question",
      why: "Usually the nozzle temperature: one print of about half an hour tries the whole range.",
      act: "Choose a question",
      href: "/trials/new",
      isDone: false,
      done: "",
    },
  ];
  const next = steps.findIndex(({ isDone }) => !isDone);
  return (
    <section className={styles.way}>
      <h1>The bench is empty</h1>
      <p className="sub">
        Cuchara makes test prints that try many values of a setting in one piece, helps you see which value won, and
        keeps it for your printer and spool. Three steps to the first one:
      </p>
      <ol>
        {steps.map(({ what, why, act, href, isDone, done }, i) => (
          <li key={what} aria-current={i === next ? "step" : undefined}>
            <span className={styles.number} aria-hidden>
              {isDone ? "✓" : i + 1}
            </span>
            <div>
              <h2>{what}</h2>
              <p className="dim">{isDone ? done : why}</p>
            </div>
            {i === next && (
              <LinkButton className="go" size="large" href={href}>
                {act}
              </LinkButton>
            )}
          </li>
        ))}
      </ol>
    </section>
  );
}
