"use client";
/** One measured tune, step by step: what is needed, heat, act, measure, the new value, again, kept. */
import { PointedLink } from "../common/pointed-link";
import type { TuneKey } from "@/core/measure";
import { Loading } from "../common/loading";
import { NoPrinter } from "../common/no-printer";
import { useBenchPair, useKept } from "../common/queries";
import { useFirmwareValues } from "../printer/link-queries";
import { Act, Heat, InForce, Measure, Needs } from "./guide-steps";
import { RunList } from "./run-list";
import { Step } from "./step";
import { Guide, GuideProps, useGuide } from "./use-guide";
import styles from "./measure.module.css";

export function TunePage({ tuneKey }: { tuneKey: TuneKey }) {
  const { printer, spool } = useBenchPair();
  const kept = useKept(printer?.id ?? 0, spool?.id ?? 0).data;
  const firmware = useFirmwareValues(printer?.id ?? 0).data;
  if (printer === undefined || spool === undefined) return <Loading rows={8} />;
  if (printer === null) return <NoPrinter />;
  if (!firmware || (spool && !kept)) return <Loading rows={8} />;
  const known = Object.fromEntries(firmware.snapshots[0]?.entries.map(({ id, value }) => [id, value]) ?? []);
  const settings = Object.fromEntries(kept?.map(({ setting, value }) => [setting, value]) ?? []);
  return (
    <GuideView
      key={`${tuneKey}-${printer.id}`}
      tuneKey={tuneKey}
      printer={printer}
      spool={spool}
      kept={settings}
      known={known}
    />
  );
}

function GuideView(props: GuideProps) {
  const guide = useGuide(props);
  const { uses, wanted, lines, fields, refusal, live, runs, setRuns, values } = guide;
  const steps = [
    { title: "What you need", body: <Needs guide={guide} /> },
    uses.length > 0 && { title: "What it has now", body: <InForce guide={guide} /> },
    wanted && { title: "Heat", body: <Heat guide={guide} /> },
    { title: lines.length > 0 ? "Act" : "Get ready", body: <Act guide={guide} /> },
    { title: fields.length > 0 ? "Measure" : "The sum", body: <Measure guide={guide} /> },
  ].filter((step) => step !== false && step !== null);
  return (
    <>
      <GuideHead {...props} guide={guide} />
      {refusal && <div className="finding stop">{refusal}</div>}
      <div className="two-sides">
        <div className={styles.guide}>
          {steps.map(({ title, body }, index) => (
            <Step key={title} number={index + 1} title={title}>
              {body}
            </Step>
          ))}
        </div>
        <div className="side stays">
          <RunList {...props} runs={runs} live={live} inForce={values} onRuns={setRuns} />
        </div>
      </div>
    </>
  );
}

function GuideHead({ guide, printer, spool }: GuideProps & { guide: Guide }) {
  const { tune, wanted, live, link } = guide;
  return (
    <div className="page-head">
      <div>
        <h1>{tune.title}</h1>
        <p className="sub">
          {tune.question} {printer.name}
          {spool && wanted ? `, ${spool.name}` : ""}.{" "}
          {live && link ? (
            <>
              Linked: {link.transport}
              {link.rate > 1 && `, clock ${link.rate} ×`}.
            </>
          ) : (
            <>
              Not linked: <PointedLink href={`/printer/${printer.id}`}>link it</PointedLink>
              {tune.asFile && ", or take the file below"}.
            </>
          )}
        </p>
      </div>
      <PointedLink href="/measure">All tunes</PointedLink>
    </div>
  );
}
