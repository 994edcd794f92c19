"use client";
/** The first screen: for the printer and the spool on the bench, what can be found out, in the order of work. */
import { Button } from "antd";
import { PointedLink } from "../common/pointed-link";
import { useRouter, useSearchParams } from "next/navigation";
import { useEffect } from "react";
import type { BriefTrial } from "@/core/trials/brief";
import type { RoadStep, TuneStep } from "@/core/road/road";
import type { FirstPiece } from "@/core/trials/effort";
import { spoolTitle } from "@/core/shelf/spool-title";
import { Loading } from "../common/loading";
import { SavedPrinter, SavedSpool } from "../common/api";
import { useBenchPair, useFirstPieces, useRoad, useSetBench, useTrials } from "../common/queries";
import { useTell } from "../common/talk";
import { WayIn } from "../common/way-in";
import { When } from "../common/when";
import { BrokenJobs } from "../printer/broken-jobs";
import styles from "./bench-page.module.css";
import { PrinterCard, SpoolCard } from "./fact-cards";
import { sayEffort } from "./say-effort";
import { DemoLine } from "./demo-line";
import { BenchTools } from "./bench-tools";
import { RoadStrip } from "./road-strip";
import { QuestionRow } from "./question-row";
import { AsidesRow, TuneRow } from "./tune-row";

/** The code on a spool leads here with its pair, which is put on the bench. */
function usePairOfAddress(): void {
  const asked = useSearchParams();
  const router = useRouter();
  const { mutateAsync } = useSetBench();
  const tell = useTell();
  const [printerId, spoolId] = [Number(asked.get("printerId")), Number(asked.get("spoolId"))];
  useEffect(() => {
    if (!(printerId > 0 && spoolId > 0)) return;
    mutateAsync({ printerId, spoolId })
      .catch(tell.error)
      .finally(() => router.replace("/bench"));
  }, [printerId, spoolId, mutateAsync, router, tell]);
}

export function BenchPage() {
  usePairOfAddress();
  const { printer, spool } = useBenchPair();
  const trials = useTrials().data ?? [];
  const road = useRoad(printer?.id ?? 0, spool?.id ?? 0);
  const pieces = useFirstPieces(printer?.id ?? 0, spool?.id ?? 0).data;
  if (printer === undefined || spool === undefined) return <Loading />;
  if (printer === null || spool === null) return <WayIn />;
  return (
    <>
      <BrokenJobs />
      <DemoLine waiting={road.data?.find(({ state }) => state === "waiting")?.label} />
      <h1>What does {spool.colourName || spool.name} want?</h1>
      <p className="sub">
        {spoolTitle(spool)} on {printer.name}. Every spool wants its own values: maker, material and colour all count.{" "}
        <Sum pieces={pieces} road={road.data} />
      </p>
      {!road.data && !road.error && <Loading />}
      {road.error && (
        <div className="empty" role="alert">
          {road.error.message} <Button onClick={() => void road.refetch()}>Try again</Button>
        </div>
      )}
      {road.data && (
        <>
          <RoadStrip road={road.data} />
          <BenchTools
            printer={printer}
            spool={spool}
            hasKept={road.data.some(({ what, found }) => what === "trial" && found !== "")}
          />
          <ol className={`rows ${styles.questions}`} aria-label="Tunes in the order of work">
            {rowsOf(road.data).map((step) =>
              step.what === "asides" ? (
                <AsidesRow key={step.steps[0].key} steps={step.steps} />
              ) : step.what === "tune" ? (
                <TuneRow key={step.key} step={step} />
              ) : (
                <QuestionRow
                  key={step.key}
                  step={step}
                  piece={pieces?.find(({ kind }) => kind === step.key)}
                  printerId={printer.id}
                  spoolId={spool.id}
                />
              ),
            )}
          </ol>
        </>
      )}
      <div className={styles.cards}>
        <PrinterCard printer={printer} />
        <SpoolCard spool={spool} />
      </div>
      <Others trials={trials} spool={spool} printer={printer} />
    </>
  );
}

type Row = RoadStep | { what: "asides"; steps: TuneStep[] };

/** The steps as rows: asides that follow one another share one. */
function rowsOf(road: readonly RoadStep[]): Row[] {
  const rows: Row[] = [];
  for (const step of road) {
    const last = rows.at(-1);
    if (step.what !== "tune" || !step.isAside) rows.push(step);
    else if (last?.what === "asides") last.steps.push(step);
    else rows.push({ what: "asides", steps: [step] });
  }
  return rows;
}

/** What it takes to ask everything, and what is still open. */
function Sum({ pieces, road }: { pieces: FirstPiece[] | undefined; road: RoadStep[] | undefined }) {
  if (!pieces || !road) return null;
  const onRoad = pieces.filter(({ kind }) => road.some(({ key }) => key === kind));
  const open = onRoad.filter(({ kind }) => road.some(({ key, found }) => key === kind && found === ""));
  const all = `All ${onRoad.length} first rounds together take ${sayEffort(onRoad)}, without heating`;
  if (open.length === onRoad.length || open.length === 0) return <>{all}.</>;
  return (
    <>
      {all}; what is not kept yet, {sayEffort(open)}.
    </>
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
            <PointedLink className="title" href={`/trials/${trial.id}`}>
              {trial.name}
            </PointedLink>
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
