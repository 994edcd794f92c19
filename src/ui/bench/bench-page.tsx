"use client";
/** The first screen: for the printer and the spool on the bench, what can be found out, in the order of work. */
import { Button } from "antd";
import Link from "next/link";
import type { BriefTrial } from "@/core/trials/brief";
import type { BenchRow } from "@/core/trials/bench-row";
import type { Effort } from "@/core/trials/effort";
import { spoolTitle } from "@/core/shelf/spool-title";
import { Loading } from "../common/loading";
import { SavedPrinter, SavedSpool } from "../common/api";
import { useBenchPair, useBenchRows, useEfforts, useTrials } from "../common/queries";
import { When } from "../common/when";
import { BrokenJobs } from "../printer/broken-jobs";
import styles from "./bench-page.module.css";
import { MeasuredCard, PrinterCard, SpoolCard } from "./fact-cards";
import { sayEffort } from "./say-effort";
import { QuestionRow } from "./question-row";
import { LinkButton } from "../common/link-button";

export function BenchPage() {
  const { printer, spool } = useBenchPair();
  const trials = useTrials().data ?? [];
  const rows = useBenchRows(printer?.id ?? 0, spool?.id ?? 0);
  const efforts = useEfforts(printer?.id ?? 0, spool?.id ?? 0).data;
  if (printer === undefined || spool === undefined) return <Loading />;
  if (printer === null || spool === null) return <EmptyBench what={printer === null ? "printer" : "spool"} />;
  return (
    <>
      <BrokenJobs />
      <h1>What does {spool.colourName || spool.name} want?</h1>
      <p className="sub">
        {spoolTitle(spool)} on {printer.name}. Every spool wants its own values: maker, material and colour all count.{" "}
        <Sum efforts={efforts} rows={rows.data} />
      </p>
      {!rows.data && !rows.error && <Loading />}
      {rows.error && (
        <div className="empty" role="alert">
          {rows.error.message} <Button onClick={() => void rows.refetch()}>Try again</Button>
        </div>
      )}
      {rows.data && (
        <ol className={`rows ${styles.questions}`} aria-label="Tunes in the order of work">
          {rows.data.map((row) => (
            <QuestionRow
              key={row.kind}
              row={row}
              effort={efforts?.find(({ kind }) => kind === row.kind)}
              printerId={printer.id}
              spoolId={spool.id}
            />
          ))}
        </ol>
      )}
      <div className={styles.cards}>
        <MeasuredCard printer={printer} />
        <PrinterCard printer={printer} />
        <SpoolCard spool={spool} />
      </div>
      <Others trials={trials} spool={spool} printer={printer} />
    </>
  );
}

/** What it takes to ask everything, and what is still open. */
function Sum({ efforts, rows }: { efforts: Effort[] | undefined; rows: BenchRow[] | undefined }) {
  if (!efforts || !rows) return null;
  const open = efforts.filter((effort) => rows.some(({ kind, kept }) => kind === effort.kind && kept === null));
  const all = `All ${efforts.length} first rounds together take ${sayEffort(efforts)}, without heating`;
  if (open.length === efforts.length || open.length === 0) return <>{all}.</>;
  return (
    <>
      {all}; what is not kept yet, {sayEffort(open)}.
    </>
  );
}

function EmptyBench({ what }: { what: "printer" | "spool" }) {
  return (
    <div className="empty">
      <h1>The bench is empty</h1>
      <p>Put a {what} on the shelf first; then Cuchara can ask it questions.</p>
      <LinkButton className="go" size="large" href={`/shelf/${what}s/new`}>
        Add a {what}
      </LinkButton>
    </div>
  );
}

/** Trials of the same printer or the same spool that lie elsewhere. */
function Others({ trials, spool, printer }: { trials: BriefTrial[]; spool: SavedSpool; printer: SavedPrinter }) {
  const others = trials
    .filter(({ spoolId, printerId }) => (spoolId === spool.id) !== (printerId === printer.id))
    .slice(0, 5);
  if (others.length === 0) return null;
  return (
    <section className={styles.others}>
      <h2>Asked before with one of the two</h2>
      <ul className="rows">
        {others.map((trial) => (
          <li key={trial.id} className={`list-row ${styles.other}`}>
            <Link className="title" href={`/trials/${trial.id}`}>
              {trial.name}
            </Link>
            <span className="dim">
              {trial.printerId === printer.id ? "same printer, another spool" : "same spool, another printer"},{" "}
              <When at={trial.updatedAt} />
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
