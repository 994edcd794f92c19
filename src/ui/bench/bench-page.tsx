"use client";
/** The first screen: for the printer and the spool on the bench, what can be found out, in the order of work. */
import { Button } from "antd";
import dayjs from "dayjs";
import relativeTime from "dayjs/plugin/relativeTime";
import Link from "next/link";
import { SettingKey, settingFor } from "@/core/settings";
import { spoolTitle } from "@/core/shelf/spool";
import { trialKindFor, TrialKindKey, trialKindKeys } from "@/core/trials";
import { optionsOf } from "@/core/options/option";
import type { Trial } from "@/core/trials/trial";
import { plainNumber } from "@/core/units";
import { Facts } from "../common/facts";
import { Loading } from "../common/loading";
import { KeptValue, SavedPrinter, SavedSpool } from "../common/api";
import { useBenchPair, useKept, useTrials } from "../common/queries";
import { tuneFor, tuneKeys } from "@/core/measure";
import { BrokenJobs } from "../printer/broken-jobs";
import { useMeasurements } from "../printer/kept-firmware";
import { rampColour } from "../theme/tokens";
import { useStartTrial } from "../trials/new-trial";

dayjs.extend(relativeTime);

export function BenchPage() {
  const { printer, spool } = useBenchPair();
  const trials = useTrials().data;
  const kept = useKept(printer?.id ?? 0, spool?.id ?? 0).data ?? [];
  if (printer === undefined || spool === undefined || !trials) return <Loading />;
  if (printer === null || spool === null) {
    const what = printer === null ? "printer" : "spool";
    return (
      <div className="empty">
        <h1>The bench is empty</h1>
        <p>Put a {what} on the shelf first; then Cuchara can ask it questions.</p>
        <Button className="go" size="large" href={`/shelf/${what}s/new`}>
          Add a {what}
        </Button>
      </div>
    );
  }
  const keptOf = (kind: TrialKindKey) => kept.find(({ setting }) => setting === keyOn(kind, printer));
  const next = trialKindKeys.find((kind) => !keptOf(kind));
  return (
    <>
      <BrokenJobs />
      <h1>What does {spool.colourName || spool.name} want?</h1>
      <p className="sub">
        {spoolTitle(spool)} on {printer.name}. Every spool wants its own values: maker, material and colour all count.
      </p>
      <ol className="rows" style={{ marginTop: 18 }} aria-label="Tunes in the order of work">
        {trialKindKeys.map((kind) => (
          <TuneRow
            key={kind}
            kind={kind}
            printer={printer}
            spool={spool}
            next={kind === next}
            kept={keptOf(kind)}
            trials={trials.filter((trial) => trial.kind === kind)}
          />
        ))}
      </ol>
      <div
        style={{ display: "grid", gridTemplateColumns: "repeat(auto-fit, minmax(300px, 1fr))", gap: 14, marginTop: 14 }}
      >
        <MeasuredCard printer={printer} />
        <FactCard
          title={printer.name}
          path={`/shelf/printers/${printer.id}`}
          facts={[
            [
              "Bed",
              `${plainNumber(printer.bedWidthMm)} × ${plainNumber(printer.bedShape === "round" ? printer.bedWidthMm : printer.bedDepthMm)} mm${printer.bedShape === "round" ? ", round" : ""}`,
            ],
            ["Nozzle", `${plainNumber(printer.nozzleMm)} mm, up to ${printer.highestNozzleC} °C`],
            [
              "Heats and cools",
              `${plainNumber(printer.heaterRiseCPerS)} and ${plainNumber(printer.heaterFallCPerS)} °C/s`,
            ],
            ["Flow at most", `${plainNumber(printer.highestFlowMm3S)} mm³/s`],
          ]}
        />
        <FactCard
          title={spoolTitle(spool)}
          path={`/shelf/spools/${spool.id}`}
          facts={[
            ["Material", `${spool.material}, ${plainNumber(spool.densityGCm3)} g/cm³`],
            ["Label", `${spool.labelMinC}–${spool.labelMaxC} °C`],
            ["Bed and fan", `${spool.bedC} °C and ${plainNumber(spool.fanPercent)} %`],
            ["A layer takes at least", `${plainNumber(spool.smallestLayerSeconds)} s`],
          ]}
        />
      </div>
      <Others trials={trials} spool={spool} printer={printer} />
    </>
  );
}

/** The last result of each measured tune; the steps come before any print. */
function MeasuredCard({ printer }: { printer: SavedPrinter }) {
  const measured = useMeasurements(printer.id).data ?? [];
  const facts = tuneKeys.flatMap((key): [string, string][] => {
    const last = measured.find(({ tune }) => tune === key);
    return last ? [[tuneFor(key).title, last.result.text.replace(/^.* (?=[\d.])/, "")]] : [];
  });
  const { title } = tuneFor(tuneKeys[0]);
  return (
    <FactCard
      title="Measured"
      path="/measure"
      linkText="Measure"
      facts={facts.length > 0 ? facts.slice(0, 5) : [[title, "not yet: the first thing to do"]]}
    />
  );
}

interface FactCardProps {
  title: string;
  path: string;
  linkText?: string;
  facts: [string, string][];
}

function FactCard({ title, path, linkText = "On the shelf", facts }: FactCardProps) {
  return (
    <section className="card" aria-label={title}>
      <h2 style={{ display: "flex", justifyContent: "space-between" }}>
        {title}
        <Link href={path} style={{ fontSize: 13, fontFamily: "inherit", fontWeight: 500, color: "var(--primary)" }}>
          {linkText}
        </Link>
      </h2>
      <Facts rows={facts} />
    </section>
  );
}

/** Trials of the same printer or the same spool that lie elsewhere. */
function Others({ trials, spool, printer }: { trials: Trial[]; spool: SavedSpool; printer: SavedPrinter }) {
  const others = trials
    .filter(({ spoolId, printerId }) => (spoolId === spool.id) !== (printerId === printer.id))
    .slice(0, 5);
  if (others.length === 0) return null;
  return (
    <section style={{ marginTop: 26 }}>
      <h2 style={{ marginBottom: 10 }}>Asked before with one of the two</h2>
      <ul className="rows">
        {others.map((trial) => (
          <li key={trial.id} className="list-row" style={{ gridTemplateColumns: "minmax(0, 1fr) auto" }}>
            <Link className="title" href={`/trials/${trial.id}`}>
              {trial.name}
            </Link>
            <span className="dim">
              {trial.printerId === printer.id ? "same printer, another spool" : "same spool, another printer"},{" "}
              {dayjs(trial.updatedAt).fromNow()}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function TuneRow(props: {
  kind: TrialKindKey;
  printer: SavedPrinter;
  spool: SavedSpool;
  next: boolean;
  kept: KeptValue | undefined;
  trials: Trial[];
}) {
  const { kind: key, printer, spool, next, kept } = props;
  const { unit, decimals } = settingFor(keyOn(key, printer));
  const kind = trialKindFor(key);
  const { start, starting } = useStartTrial();
  const own = props.trials.filter(({ printerId, spoolId }) => printerId === printer.id && spoolId === spool.id);
  const latest = own[0];
  return (
    <li className="list-row" style={{ gridTemplateColumns: "minmax(0, 1fr) 260px 108px", padding: "14px 18px" }}>
      <div>
        <h2 style={{ fontSize: 17 }}>{kind.label}</h2>
        <p className="dim" style={{ marginTop: 2, maxWidth: "68ch", lineHeight: 1.4 }} title={kind.explains}>
          {firstSentence(kind.explains)}
        </p>
        <p className="dim" style={{ marginTop: 4 }}>
          {kept && (
            <>
              <b style={{ color: "var(--ink)" }}>
                Kept: {plainNumber(kept.value, decimals)} {unit}
              </b>
              , {dayjs(kept.keptAt).fromNow()}.{" "}
            </>
          )}
          {latest ? (
            <>
              {own.length === 1 ? "One trial" : `${own.length} trials`}, the last {dayjs(latest.updatedAt).fromNow()}:{" "}
              <Link href={`/trials/${latest.id}`}>{latest.name}</Link>
            </>
          ) : (
            `Not asked yet for this pair.${kind.settledFirst ? ` Settle first: ${kind.settledFirst}.` : ""}`
          )}
        </p>
      </div>
      <RangeScale kind={key} printer={printer} spool={spool} latest={latest} kept={kept?.value} />
      <Button
        className={next ? "go" : undefined}
        size="large"
        loading={starting}
        onClick={() => void start(key, printer.id, spool.id)}
      >
        {latest ? "Ask again" : "Ask"}
      </Button>
    </li>
  );
}

/** The setting a kind looks for on this printer. */
function keyOn(key: TrialKindKey, printer: SavedPrinter): SettingKey {
  const kind = trialKindFor(key);
  return kind.setting(printer, optionsOf(kind.options, {}, printer));
}

function firstSentence(text: string): string {
  return text.slice(0, text.indexOf(". ") + 1);
}

/** The range as a scale, and on it the values the latest trial tries and the one that is kept. */
function RangeScale({
  kind: key,
  printer,
  spool,
  latest,
  kept,
}: {
  kind: TrialKindKey;
  printer: SavedPrinter;
  spool: SavedSpool;
  latest: Trial | undefined;
  kept: number | undefined;
}) {
  const kind = trialKindFor(key);
  const setting = keyOn(key, printer);
  const { unit, decimals } = settingFor(setting);
  const { low, high } = kind.range(printer, spool);
  const tried =
    latest?.plan.bands.map(({ settings }) => settings[setting]).filter((value) => value !== undefined) ?? [];
  const known = kept === undefined ? tried : [...tried, kept];
  const from = Math.min(low, ...known);
  const to = Math.max(high, ...known);
  const place = (value: number) => `${((value - from) / (to - from || 1)) * 100}%`;
  const shown = [...new Set(tried)];
  return (
    <div
      role="img"
      aria-label={`${plainNumber(low, decimals)} to ${plainNumber(high, decimals)} ${unit}${kept === undefined ? "" : `, kept ${plainNumber(kept, decimals)} ${unit}`}${shown.length > 0 ? `, tried ${shown.join(", ")} ${unit}` : ", nothing tried yet"}`}
      style={{ padding: "0 8px" }}
    >
      <div style={{ position: "relative", height: 34 }}>
        <div
          style={{ position: "absolute", left: 0, right: 0, top: 17, height: 2, background: "var(--line-strong)" }}
        />
        <div
          style={{
            position: "absolute",
            left: place(low),
            width: `calc(${place(high)} - ${place(low)})`,
            top: 13,
            height: 10,
            borderRadius: 5,
            background: `linear-gradient(90deg, ${rampColour(0)}, ${rampColour(0.5)}, ${rampColour(1)})`,
            opacity: 0.9,
          }}
        />
        {shown.map((value) => (
          <span
            key={value}
            style={{
              position: "absolute",
              left: place(value),
              top: 8,
              width: 2,
              height: 20,
              marginLeft: -1,
              background: "var(--ink)",
            }}
          />
        ))}
        {kept !== undefined && (
          <span
            style={{
              position: "absolute",
              left: place(kept),
              top: 3,
              width: 12,
              height: 12,
              marginLeft: -6,
              transform: "rotate(45deg)",
              background: "var(--mustard)",
              border: "1.5px solid var(--ink)",
            }}
          />
        )}
      </div>
      <div className="mono dim" style={{ position: "relative", height: 16, fontSize: 12 }}>
        <span style={{ position: "absolute", left: place(low), transform: "translateX(-30%)" }}>
          {plainNumber(low, decimals)}
        </span>
        <span style={{ position: "absolute", left: place(high), transform: "translateX(-70%)", whiteSpace: "nowrap" }}>
          {plainNumber(high, decimals)} {unit}
        </span>
      </div>
      <div className="dim" style={{ fontSize: 12, marginTop: 2 }}>
        {setting === "nozzleTemperature" ? "label’s range" : "usual range"}
        {shown.length > 0 ? `; ${shown.length} values tried` : ""}
      </div>
    </div>
  );
}
