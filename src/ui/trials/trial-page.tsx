"use client";
/** One trial: its plan on the height log, what will come of it, and the file. */
import { settingFor } from "@/core/settings";
import { Segments } from "../common/segments";
import { ApiError } from "../common/api";
import { Loading } from "../common/loading";
import { usePrinters, useSpools, useTrial } from "../common/queries";
import { TabRow } from "../common/tab-row";
import { UndoRedo } from "../common/undo-redo";
import { sayFields } from "./editor";
import { ClashDialog } from "../common/dialogs-later";
import { FillDialog } from "./dialogs-later";
import { AfterPrinting } from "./after-printing";
import { TrialHead } from "./trial-head";
import { TrialSide } from "./trial-side";
import { TrialView } from "./trial-view";
import { LoadedTrialProps, Step, TrialPageState, useTrialPage, View } from "./use-trial-page";
import { LinkButton } from "../common/link-button";

export function TrialPage({ id }: { id: number }) {
  const trial = useTrial(id);
  const printers = usePrinters();
  const spools = useSpools();
  if (trial.error) {
    return (
      <div className="empty" role="alert">
        <h1>This trial is not here</h1>
        <p>{trial.error instanceof ApiError ? trial.error.message : "It could not be loaded."}</p>
        <LinkButton href="/trials">All trials</LinkButton>
      </div>
    );
  }
  if (!trial.data || !printers.data || !spools.data) return <Loading rows={12} />;
  return <LoadedTrial key={id} loaded={trial.data} printers={printers.data} spools={spools.data} />;
}

const views: { key: View; label: string }[] = [
  { key: "log", label: "Height log" },
  { key: "bands", label: "Bands" },
  { key: "above", label: "From above" },
  { key: "path", label: "3D path" },
  { key: "program", label: "Program" },
];
const steps: { key: Step; label: string }[] = [
  { key: "plan", label: "Plan" },
  { key: "check", label: "Check" },
  { key: "run", label: "Run" },
  { key: "read", label: "Read" },
  { key: "keep", label: "Keep" },
];

function LoadedTrial(props: LoadedTrialProps) {
  const page = useTrialPage(props);
  const { trial, edit, step, setStep, clash, settle, keepCopy, filling, setFilling, key, varied } = page;
  const isAfter = step !== "plan" && step !== "check";
  return (
    <>
      <TrialHead
        trial={trial}
        printers={props.printers}
        spools={props.spools}
        onEdit={edit}
        printed={isAfter ? sayPrinted(page) : undefined}
        right={<TabRow<Step> label="Step" look="steps" tabs={steps} chosen={step} onChoose={setStep} />}
      />
      {!isAfter ? (
        <div className="two-sides">
          <div>
            <ViewRow page={page} />
            <TrialView page={page} />
          </div>
          <TrialSide page={page} />
        </div>
      ) : (
        <AfterPrinting page={page} step={step} />
      )}
      {clash && (
        <ClashDialog
          what="trial"
          fields={sayFields(clash.fields)}
          onTheirs={() => settle("theirs")}
          onMine={() => settle("mine")}
          onCopy={() => void keepCopy()}
        />
      )}
      {filling && (
        <FillDialog
          plan={trial.plan}
          settingKey={key}
          varied={varied}
          layerHeightMm={trial.layerHeightMm}
          onClose={() => setFilling(false)}
          onTake={(plan) => edit({ plan })}
        />
      )}
    </>
  );
}

/** What the newest piece is, in a line. */
function sayPrinted({ runs, runId, kind }: TrialPageState): string {
  const run = runs?.find(({ id }) => id === runId) ?? runs?.[0];
  if (!run) return `${kind.label}: not printed yet.`;
  const count = run.bands.filter(({ counts }) => counts).length;
  const readers = run.readings.map(({ reader }) => reader).join(", ");
  return `${kind.label}, printed on ${run.printer.name} with ${run.spoolTitle}; ${count} of ${run.bands.length} can be read.${readers ? ` Read by: ${readers}.` : ""}`;
}

/** Which view, of which setting, and the way back. */
function ViewRow({ page }: { page: TrialPageState }) {
  const { isFlat, shown, setView, varied, key, setKey, canUndo, canRedo, undo, redo } = page;
  return (
    <div className="view-row">
      <TabRow<View>
        label="View"
        look="views"
        tabs={isFlat ? views.filter((one) => one.key !== "log") : views}
        chosen={shown}
        onChoose={setView}
      />
      {shown === "log" && varied.length > 1 && (
        <Segments
          label="Values shown"
          small
          value={key}
          options={varied.map((one) => ({ value: one, label: settingFor(one).label }))}
          onChange={setKey}
        />
      )}
      <UndoRedo canUndo={canUndo} canRedo={canRedo} onUndo={undo} onRedo={redo} />
    </div>
  );
}
