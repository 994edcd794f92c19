"use client";
/** What stands beside an opened file: its figures, what to do with it, what was taken out, and the checks. */
import { Button } from "antd";
import { useRouter } from "next/navigation";
import { usualLiftOut } from "@/core/findings/finding";
import { settingFor } from "@/core/settings";
import { roundTo, sayDuration } from "@/core/units";
import { Facts } from "../common/facts";
import { Choice } from "../common/choice";
import { Findings } from "../common/findings";
import { usePrinters } from "../common/queries";
import { useAct } from "../common/use-act";
import { canMerge } from "./merging";
import { EditSets, MergeCard } from "./opened-later";
import { ProofCard, useOutcomeSeconds } from "./proof-card";
import type { FilePageState } from "./use-file-page";
import { Problem } from "../common/problem";

export function FileSide({ page }: { page: FilePageState }) {
  const printers = usePrinters().data ?? [];
  const isOffered = canMerge(page, printers);
  // On a printer of one tool it is only said what it takes.
  const canHere = (page.printer?.tools ?? 1) > 1;
  return (
    <div className="side">
      <FileCard page={page} />
      <Acts page={page} />
      {page.view === "edits" && <EditSets page={page} />}
      {isOffered && canHere && <MergeCard page={page} />}
      <TakenOut page={page} />
      <Checks page={page} />
      {isOffered && !canHere && <MergeCard page={page} />}
    </div>
  );
}

function FileCard({ page }: { page: FilePageState }) {
  const { report, waiting, changedLines, problem } = page;
  const { filament, waits } = report;
  const outcomeS = useOutcomeSeconds(page.file.id, proofVersion(page));
  return (
    <section className="card" aria-label="This file">
      <h2>This file</h2>
      <Facts
        rows={[
          ["Time", sayDuration(report.seconds)],
          outcomeS === null || Math.abs(outcomeS - report.seconds) < 1
            ? null
            : ["With the edits", sayDuration(outcomeS)],
          waits.heatings === 0 ? null : ["Heating up, about", sayDuration(waits.heatingSeconds)],
          ...filament.map(({ tool, mm }): [string, string] => [
            filament.length > 1 ? `Filament, tool ${tool}` : "Filament",
            `${roundTo(mm / 1000, 2).toFixed(2)} m`,
          ]),
          ["Lines", report.lines.toLocaleString("en")],
          ["Lines that change", problem ? "–" : waiting ? "…" : String(changedLines)],
        ]}
      />
      <PrinterChoice page={page} />
    </section>
  );
}

/** What a proof holds for: the edits the server answered last; null while others wait. */
const proofVersion = ({ waiting, problem, answer, stack }: FilePageState): string | null =>
  waiting || problem !== null || !stack.some(({ off }) => !off) ? null : JSON.stringify(answer.stack);

/** The printer a file is for: it is read, and edited, in that one's language. */
function PrinterChoice({ page: { file, printer, changePrinter } }: { page: FilePageState }) {
  const printers = usePrinters().data ?? [];
  const { act } = useAct();
  if (printers.length < 2) return null;
  return (
    <div className="inline-line above">
      For
      <Choice
        label="Which printer the file is for"
        value={printer?.id}
        options={printers.map(({ id, name }) => ({ value: id, label: name }))}
        onChange={(id) => void act(() => changePrinter(file.id, id))}
      />
    </div>
  );
}

function Acts({ page }: { page: FilePageState }) {
  const { file, printer, stack, changes, waiting, problem, isStopped, view, setView } = page;
  const router = useRouter();
  return (
    <>
      <Button
        className="go"
        size="large"
        block
        href={`/api/files/${file.id}/gcode`}
        download
        disabled={waiting || problem !== null || (stack.length > 0 && isStopped)}
      >
        Get the file
      </Button>
      {printer && (
        <Button
          block
          disabled={waiting || problem !== null || isStopped}
          onClick={() => router.push(`/printer/${printer.id}?view=job&file=${file.id}`)}
        >
          Send it to {printer.name}
        </Button>
      )}
      {view !== "plan" && (
        <Button block onClick={() => setView("plan")}>
          {changes.length === 0 ? "Put a plan on it" : "Change the plan"}
        </Button>
      )}
    </>
  );
}

function TakenOut({ page: { stack, change, answer } }: { page: FilePageState }) {
  if (!stack.some(({ kind }) => kind === "lift-out")) return null;
  return (
    <section className="card" aria-label="Taken out">
      <h2>Taken out</h2>
      {stack.map((edit, index) =>
        edit.kind === "lift-out" ? (
          <div key={index} className="finding note">
            {edit.what === "cuchara"
              ? "The lines of an earlier plan"
              : `The file’s own changes of ${(edit.settings ?? usualLiftOut).map((one) => settingFor(one).short).join(", ")}${edit.tool === undefined ? "" : ` for tool ${edit.tool}`}`}
            : {answer.edits[index]?.changedLines ?? 0} lines.{" "}
            <button className="link-button" onClick={() => change(stack.filter((_, i) => i !== index))}>
              Put them back
            </button>
          </div>
        ) : null,
      )}
    </section>
  );
}

function Checks({ page }: { page: FilePageState }) {
  const { file, stack, answer, changes, problem, mend } = page;
  const isClean = answer.findings.length === 0 && changes.length === 0;
  return (
    <section className="card" aria-label="Checks">
      <h2>Checks</h2>
      <Problem>{problem}</Problem>
      <Findings
        findings={answer.findings}
        passed={isClean ? ["Nothing in this file gets in a plan's way."] : []}
        onMend={mend}
        onGo={page.leadsTo}
      />
      <ProofCard
        fileId={file.id}
        sizeBytes={file.sizeBytes}
        version={proofVersion(page)}
        planned={stack.some(({ off }) => !off)}
        lastEdit={stack.findLastIndex(({ off }) => !off)}
        onGo={page.leadsTo}
      />
    </section>
  );
}
