"use client";
/** An opened file looked at: from above, along its path, and in figures along its height. */
import { heaterOf } from "@/core/shelf/printer";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { MovePicture, unpackMoves } from "@/core/laid/picture";
import { filamentAreaMm2, USUAL_FILAMENT_MM } from "@/core/material/bead";
import { laysMaterial } from "@/core/gcode/moves";
import { heatProfile } from "@/core/report/report";
import { ApiError } from "../common/api";
import { keys } from "../common/keys";
import { Loading } from "../common/loading";
import { Toggle } from "../common/toggle";
import { useBenchPair } from "../common/queries";
import { figureColumns } from "../heightlog/figure-columns";
import { HeightLog } from "../heightlog/height-log";
import { AboveView } from "../trials/above-view";
import { PathView } from "../trials/path-view";
import { toolsColumn } from "./tools-column";
import type { FilePageState } from "./use-file-page";

/** Files of more lines than this are fetched layer by layer: their whole path would be more than a page holds. */
const MOST_WHOLE_LINES = 1_500_000;
/** So many layers of such a file are drawn at once along its path. */
const LAYERS_AT_ONCE = 40;
const USUAL_SPOOL = { diameterMm: USUAL_FILAMENT_MM, densityGCm3: 1.24 };
const NO_BANDS: never[] = [];

interface Props {
  page: FilePageState;
  roomPx: number;
}

async function fetchMoves(path: string, signal: AbortSignal): Promise<MovePicture> {
  const answer = await fetch(`/api${path}`, { signal });
  if (!answer.ok) {
    const { error } = (await answer.json()) as { error: { message: string } };
    throw new ApiError(answer.status, error.message);
  }
  return unpackMoves(await answer.arrayBuffer());
}

const isWindow = ({ report }: FilePageState) => report.lines > MOST_WHOLE_LINES;

/** The moves of a file around a layer: all of them where that is not too much. */
function useMoves(page: FilePageState, fromLayer: number, layers: number) {
  const { file, answer, stack } = page;
  const isEdited = stack.some(({ off }) => !off);
  const window = !isWindow(page) ? "" : `fromLayer=${fromLayer}&layers=${layers}&`;
  return useQuery({
    queryKey: keys.fileMoves(file.id, isEdited ? answer.version : 0, window),
    queryFn: ({ signal }) => fetchMoves(`/files/${file.id}/moves?${window}${isEdited ? "edited=1" : ""}`, signal),
    staleTime: Infinity,
    gcTime: 60_000,
    retry: false,
  });
}

const drawnOf = (picture: MovePicture) => ({ moves: picture, layerStarts: picture.layerStarts });

/** The layer of a picture that ends at a height: an edited file may have other layers than the log. */
function layerAt({ layerStarts, z, kind, count }: MovePicture, topMm: number): number {
  let found = 0;
  for (let layer = 0; layer < layerStarts.length; layer++) {
    let i = layerStarts[layer];
    while (i < count && !laysMaterial(kind[i])) i++;
    if (i >= count || z[i] > topMm + 1e-3) break;
    found = layer;
  }
  return found;
}

export function FileFromAbove({ page, roomPx }: Props) {
  const { cursor, setCursor, tops, report } = page;
  const { data, error } = useMoves(page, cursor, 1);
  const several = report.filament.length > 1;
  const [byTool, setByTool] = useState(several);
  const drawn = useMemo(() => (data ? drawnOf(data) : null), [data]);
  if (error) return <p role="alert">{error.message}</p>;
  if (!data) return <Loading rows={10} />;
  return (
    <>
      <AboveView
        moves={drawn}
        toolOf={byTool ? data.tool : undefined}
        layer={cursor}
        movesLayer={isWindow(page) ? cursor : layerAt(data, tops[cursor])}
        tops={tops}
        spots={NO_BANDS}
        heightPx={roomPx}
        onLayer={setCursor}
      />
      <p className="dim line">
        {several && (
          <label>
            <Toggle checked={byTool} onChange={setByTool} /> coloured by tool{" "}
          </label>
        )}
        {data.kindsFrom === "comments"
          ? "Kinds of line as the file’s own comments say them."
          : "The file says nothing of kinds of line; they are found by its geometry."}
      </p>
    </>
  );
}

export function FilePath({ page, roomPx }: Props) {
  const { cursor, setCursor, tops, report } = page;
  const first = Math.max(0, cursor - LAYERS_AT_ONCE + 1);
  const { data, error } = useMoves(page, first, LAYERS_AT_ONCE);
  const drawn = useMemo(() => (data ? drawnOf(data) : null), [data]);
  if (error) return <p role="alert">{error.message}</p>;
  if (!data) return <Loading rows={10} />;
  return (
    <>
      <PathView
        moves={drawn}
        toolOf={report.filament.length > 1 ? data.tool : undefined}
        bands={page.bands}
        layer={cursor}
        movesLayer={isWindow(page) ? cursor : layerAt(data, tops[cursor])}
        tops={tops}
        heightPx={roomPx}
        onLayer={setCursor}
      />
      {isWindow(page) && (
        <p className="dim">The file is large: the {LAYERS_AT_ONCE} layers up to the cursor are drawn.</p>
      )}
    </>
  );
}

/** Heat, flow, fan, time and tools along the height. */
export function FileFigures({ page, roomPx }: Props) {
  const { report, printer, cursor, setCursor, tops, topMm } = page;
  const { spool } = useBenchPair();
  const columns = useMemo(() => {
    const { layers, settings } = report;
    const { diameterMm, densityGCm3 } = spool ?? USUAL_SPOOL;
    const area = filamentAreaMm2(diameterMm);
    const values = (list: (number | null)[]) => Float64Array.from(list, (value) => value ?? NaN);
    const setC = values(settings.nozzleTemperature);
    const heat = printer ? heatProfile(layers, setC, heaterOf(printer), { diameterMm, densityGCm3 }) : null;
    return figureColumns(
      {
        seconds: layers.map(({ seconds }) => seconds),
        peakFlowMm3S: layers.map(({ peakFilamentMmS }) => peakFilamentMmS * area),
        setC,
        expectedC: heat?.expectedC ?? null,
        fanPercent: values(settings.fan),
        meltsMm3S: printer?.highestFlowMm3S ?? null,
        markers: layers.map(({ marker }) => marker),
      },
      report.filament.length > 1 ? [toolsColumn(layers)] : [],
    );
  }, [report, printer, spool]);
  return (
    <HeightLog
      label="Values along the height"
      columns={columns}
      bands={NO_BANDS}
      tops={tops}
      topMm={topMm}
      cursorLayer={cursor}
      onCursor={setCursor}
      roomPx={roomPx}
    />
  );
}
