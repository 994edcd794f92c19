"use client";
/** One opened file: its layers on the height log, a plan laid over it, what changes, and the finished file. */
import { useQuery } from "@tanstack/react-query";
import type { ProgramReport } from "@/core/report/report";
import { plainNumber } from "@/core/units";
import { api, ApiError } from "../common/api";
import { keys } from "../common/keys";
import { Loading } from "../common/loading";
import { TabRow } from "../common/tab-row";
import { UndoRedo } from "../common/undo-redo";
import { useRoom } from "../common/use-room";
import { HeightLog } from "../heightlog/height-log";
import { ChangedLines } from "./changed-lines";
import type { EditsAnswer } from "./file-editor";
import { FileSide } from "./file-side";
import { ClashDialog } from "../common/dialogs-later";
import { ChangeTable, EditBoard, FileFigures, FileFromAbove, FilePath, FileProgram } from "./opened-later";
import { FilePageState, LoadedFileProps, useFilePage, View } from "./use-file-page";
import type { ListedFile } from "./workshop-page";
import { LinkButton } from "../common/link-button";

export function FilePage({ id }: { id: number }) {
  const once = { gcTime: 0, staleTime: Infinity, retry: false };
  const file = useQuery({ queryKey: keys.file(id), queryFn: () => api.get<ListedFile>(`/files/${id}`), ...once });
  const report = useQuery({
    queryKey: keys.fileReport(id),
    queryFn: () => api.get<ProgramReport>(`/files/${id}/report`),
    ...once,
  });
  const edits = useQuery({
    queryKey: keys.fileEdits(id),
    queryFn: () => api.get<EditsAnswer>(`/files/${id}/edits`),
    ...once,
  });
  const error = file.error ?? report.error ?? edits.error;
  if (error) {
    return (
      <div className="empty" role="alert">
        <h1>This file is not here</h1>
        <p>{error instanceof ApiError ? error.message : "It could not be loaded."}</p>
        <LinkButton href="/workshop">All files</LinkButton>
      </div>
    );
  }
  if (!file.data) return <Loading rows={12} />;
  if (!report.data || !edits.data) {
    return (
      <>
        <h1 className="long-title">{file.data.name}</h1>
        <Loading rows={12} />
      </>
    );
  }
  return <LoadedFile key={id} file={file.data} report={report.data} loaded={edits.data} />;
}

const views: { key: View; label: string }[] = [
  { key: "log", label: "Height log" },
  { key: "edits", label: "Edits" },
  { key: "plan", label: "Plan" },
  { key: "above", label: "From above" },
  { key: "path", label: "Path" },
  { key: "figures", label: "Heat and flow" },
  { key: "lines", label: "Changed lines" },
  { key: "program", label: "Program" },
];

/** What stands above and below the log, px. */
const AROUND_PX = 268;

/** How the layers were found. */
function sayOpenings(markers: ProgramReport["markers"]): string {
  if (!markers) return "No comments open its layers; they were found by where material is laid.";
  const comments = `Comments like “${markers.shape}” open its layers`;
  return markers.countsFrom === null
    ? `${comments}, without numbers.`
    : `${comments} and count from ${markers.countsFrom}.`;
}

function LoadedFile(props: LoadedFileProps) {
  const page = useFilePage(props);
  const { file, report, topMm, view, setView, canUndo, canRedo, undo, redo, clash, settle } = page;
  const { layers, markers } = report;
  return (
    <>
      {clash && (
        <ClashDialog
          what="file"
          fields={["what is applied to it"]}
          onTheirs={() => settle("theirs")}
          onMine={() => settle("mine")}
        />
      )}
      <h1 className="long-title">{file.name}</h1>
      <p className="sub">
        {layers.length} {layers.length === 1 ? "layer" : "layers"} up to {plainNumber(topMm)} mm, the first{" "}
        {plainNumber(layers[0].heightMm)} mm. {sayOpenings(markers)}
      </p>
      <div className="two-sides">
        <div>
          <div className="view-row">
            <TabRow<View> label="View" look="views" tabs={views} chosen={view} onChoose={setView} />
            <UndoRedo canUndo={canUndo} canRedo={canRedo} onUndo={undo} onRedo={redo} />
          </div>
          <FileView page={page} />
        </div>
        <FileSide page={page} />
      </div>
    </>
  );
}

function FileView({ page }: { page: FilePageState }) {
  const { view, report, changes, setChanges, mode, changeMode, printer, trials, answer } = page;
  const roomPx = useRoom(AROUND_PX);
  switch (view) {
    case "log":
      return (
        <HeightLog
          label="Height log of the file"
          columns={page.columns}
          bands={page.bands}
          tops={page.tops}
          topMm={page.topMm}
          cursorLayer={page.cursor}
          onCursor={page.setCursor}
          onMoveEdge={changes.length > 0 ? page.moveEdge : undefined}
          roomPx={roomPx}
        >
          <LayerNote report={report} layer={page.cursor} />
        </HeightLog>
      );
    case "edits":
      return <EditBoard page={page} roomPx={roomPx} />;
    case "plan":
      return (
        <ChangeTable
          changes={changes}
          layers={report.layers}
          mode={mode}
          tools={printer?.tools ?? 1}
          trials={trials}
          onMode={changeMode}
          onChange={setChanges}
        />
      );
    case "above":
      return <FileFromAbove page={page} roomPx={roomPx} />;
    case "path":
      return <FilePath page={page} roomPx={roomPx} />;
    case "figures":
      return <FileFigures page={page} roomPx={roomPx} />;
    case "program":
      return <FileProgram page={page} roomPx={roomPx} />;
    case "lines":
      return <ChangedLines answer={answer} />;
  }
}

/** What the cursor's layer is called, both ways of counting. */
function LayerNote({ report, layer }: { report: ProgramReport; layer: number }) {
  const { zMm, heightMm, insertLine, marker } = report.layers[Math.min(layer, report.layers.length - 1)];
  return (
    <span>
      Layer <b>{layer}</b> from 0, <b>{layer + 1}</b> from 1
      {marker !== undefined && `, “${report.markers?.shape.replace("#", String(marker))}”`}:{" "}
      {plainNumber(zMm - heightMm)} to {plainNumber(zMm)} mm, opens at line {insertLine}
    </span>
  );
}
