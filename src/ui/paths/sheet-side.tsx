"use client";
/** What a sheet takes, what was found, and what can be done with it. */
import { Button } from "antd";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { mendSheet, SheetFigures } from "@/core/sheets/program";
import type { Sheet } from "@/core/sheets/sheet";
import type { Printer } from "@/core/shelf/printer";
import type { Spool } from "@/core/shelf/spool";
import { plainNumber, roundTo, sayDuration } from "@/core/units";
import { api } from "../common/api";
import { Facts } from "../common/facts";
import { Findings } from "../common/findings";
import { Loading } from "../common/loading";
import { useAct } from "../common/use-act";
import { AskWith } from "./ask-with";
import styles from "./sheet-page.module.css";
import type { SheetWork } from "./use-sheet-work";
import { Problem } from "../common/problem";

interface Props {
  id: number;
  sheet: Sheet;
  printer: Printer & { id: number };
  spool: Spool & { id: number };
  work: SheetWork;
  problem: string | null;
  isSaving: boolean;
  /** Stores what was changed. */
  flush(): Promise<void>;
  onChange(change: Partial<Sheet>): void;
}

export function SheetSide(props: Props) {
  const { sheet, spool, work, problem, onChange } = props;
  const { wrong, inspection, isChecked, view } = work;
  return (
    <div className="side">
      {inspection && <Takes figures={inspection.figures} spool={spool} tookMs={view?.tookMs ?? 0} isOld={!isChecked} />}
      <section className="card" aria-label="Checks">
        <h2>Checks</h2>
        <Problem>{problem}</Problem>
        <Problem>{wrong?.message}</Problem>
        {!wrong && inspection && (
          <div style={{ opacity: isChecked ? 1 : 0.6 }}>
            <Findings
              findings={inspection.findings.map(({ others: _, mend, ...finding }) => ({
                ...finding,
                ...(mend?.sheet ? { mend } : {}),
              }))}
              passed={[]}
              onMend={({ sheet: mend }) => {
                const mended = mend && mendSheet(sheet, mend);
                if (mended) onChange({ items: mended.items, keepOut: mended.keepOut });
              }}
            />
            <details className={styles.passed}>
              <summary>
                {inspection.passed.length} {inspection.passed.length === 1 ? "thing is" : "things are"} in order
              </summary>
              {inspection.passed.map((sentence) => (
                <div key={sentence} className="finding ok">
                  {sentence}
                </div>
              ))}
            </details>
          </div>
        )}
        {!wrong && !inspection && <Loading />}
      </section>
      <Acts {...props} />
    </div>
  );
}

function Acts({ id, sheet, printer, spool, work, isSaving, flush }: Props) {
  const router = useRouter();
  const { busy, act } = useAct();
  const [isAsking, setAsking] = useState(false);
  const { wrong, inspection, isChecked } = work;
  const stop = inspection?.findings.find(({ severity }) => severity === "stop");
  const isHeld = wrong !== null || !isChecked || stop !== undefined || isSaving;
  const query = `printerId=${printer.id}&spoolId=${spool.id}`;
  const asFile = (path: (fileId: number) => string) =>
    act(async () => {
      await flush();
      const { id: fileId } = await api.post<{ id: number }>(`/sheets/${id}/file?${query}`, {});
      router.push(path(fileId));
    });
  return (
    <>
      <Button
        className="go"
        size="large"
        block
        href={isHeld ? undefined : `/api/sheets/${id}/gcode?${query}`}
        download
        disabled={isHeld}
        title={stop?.message}
      >
        Get the file
      </Button>
      <Button block disabled={wrong !== null} onClick={() => setAsking(true)}>
        Ask something with it
      </Button>
      <Button
        block
        disabled={isHeld || busy}
        onClick={() => void asFile((fileId) => `/printer/${printer.id}?view=job&file=${fileId}`)}
      >
        Send it to {printer.name}
      </Button>
      <Button block disabled={isHeld || busy} onClick={() => void asFile((fileId) => `/workshop/${fileId}`)}>
        Open it in the Workshop
      </Button>
      <a
        className="link-button"
        href={`data:application/json;charset=utf-8,${encodeURIComponent(JSON.stringify(sheet, null, 2))}`}
        download={`${sheet.name}.json`}
      >
        Write the sheet out (JSON)
      </a>
      {isAsking && <AskWith sheet={sheet} printerId={printer.id} spoolId={spool.id} onClose={() => setAsking(false)} />}
    </>
  );
}

interface TakesProps {
  figures: SheetFigures;
  spool: Spool;
  tookMs: number;
  isOld: boolean;
}

function Takes({ figures, spool, tookMs, isOld }: TakesProps) {
  const { seconds, filamentMm, massG, cost, segments, layers, saved } = figures;
  return (
    <section className="card" aria-label="This print" style={{ opacity: isOld ? 0.6 : 1 }}>
      <h2>This print</h2>
      <Facts
        rows={[
          ["Time", sayDuration(seconds)],
          ["Filament", `${roundTo(filamentMm / 1000, 2).toFixed(2)} m`],
          ["Mass", `${roundTo(massG, 1).toFixed(1)} g`],
          cost === null ? null : ["Cost", `${cost.toFixed(2)} ${spool.currency}`],
          ["Layers", layers.toLocaleString("en")],
          ["Moves", segments.toLocaleString("en")],
          ["Laid in", tookMs < 1000 ? `${plainNumber(tookMs, 0)} ms` : `${plainNumber(tookMs / 1000, 1)} s`],
        ]}
      />
      <p className="dim">{saySaved(saved)}</p>
    </section>
  );
}

/** What order and ways save, in a sentence; nothing where they save nothing. */
function saySaved({ retractions, travelMm, seconds }: SheetFigures["saved"]): string {
  const parts = [
    ...(retractions > 0
      ? [`${retractions.toLocaleString("en")} ${retractions === 1 ? "retraction" : "retractions"}`]
      : []),
    ...(travelMm >= 100 ? [`${plainNumber(travelMm / 1000, 1)} m of travel`] : []),
    ...(seconds >= 1 ? [sayDuration(seconds)] : []),
  ];
  return parts.length > 0 ? `Travel optimisation saves ${parts.join(", ")}.` : "";
}
