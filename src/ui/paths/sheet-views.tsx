"use client";
/** A sheet looked at: from above and the front, in space, in figures along its height, as a program. */
import { Button } from "antd";
import dynamic from "next/dynamic";
import { createElement, useEffect, useMemo, useRef, useState } from "react";
import type { Printer } from "@/core/shelf/printer";
import { plainNumber, sayDuration } from "@/core/units";
import type { SheetInspection } from "@/workers/sheet-messages";
import { Choice } from "../common/choice";
import { Loading } from "../common/loading";
import type { ProgramTextHandle } from "../common/program-text";
import { useInAddress } from "../common/in-address";
import { TabRow } from "../common/tab-row";
import { useRoom } from "../common/use-room";
import { figureColumns } from "../heightlog/figure-columns";
import { HeightLog } from "../heightlog/height-log";
import { PathView } from "../trials/opened-later";
import { layerOfMove } from "./paint";
import { placeAt, Play, rates, usePlay } from "./play";
import { fieldsWithin, Lit, SheetPicture } from "./sheet-picture";
import type { SheetWork } from "./use-sheet-work";
import styles from "./sheet-page.module.css";

const ProgramText = dynamic(() => import("../common/program-text").then((module) => module.ProgramText), {
  ssr: false,
  loading: () => createElement(Loading, { rows: 8 }),
});

const tabs = [
  { key: "above", label: "From above" },
  { key: "space", label: "In space" },
  { key: "figures", label: "What it takes" },
  { key: "program", label: "Program" },
] as const;
const tabKeys = tabs.map(({ key }) => key);

const AROUND_PX = 250;
const FRONT_SHARE = 0.28;
const NARROW = { nozzlePx: 104, flowPx: 92, fanPx: 0, timePx: 76 };
const NO_BANDS: never[] = [];

interface Props {
  work: SheetWork;
  printer: Printer;
  lit: Lit;
  onLit(lit: Lit): void;
}

export function SheetViews({ work, printer, lit, onLit }: Props) {
  const [tab, setTab] = useInAddress("view", tabKeys, "above");
  const roomPx = useRoom(AROUND_PX, 420);
  return (
    <div className={styles.views}>
      <TabRow label="Views of the sheet" look="views" tabs={tabs} chosen={tab} onChoose={(next) => setTab(next)} />
      {work.progress !== null && (
        <p className="finding note" role="status">
          Laying: {work.progress.toLocaleString("en")} moves so far.{" "}
          <button className="link-button" onClick={work.stop}>
            Stop
          </button>
        </p>
      )}
      {work.isStopped && (
        <p className="finding note" role="status">
          Stopped. What you see is the last complete version of the sheet.{" "}
          <button className="link-button" onClick={work.goOn}>
            Lay it
          </button>
        </p>
      )}
      {tab === "above" && <FromAbove work={work} lit={lit} roomPx={roomPx} onLit={onLit} />}
      {tab === "space" && <InSpace work={work} roomPx={roomPx} />}
      {tab === "figures" && <Along inspection={work.inspection} printer={printer} roomPx={roomPx} />}
      {tab === "program" && <Program work={work} lit={lit} roomPx={roomPx} />}
    </div>
  );
}

function FromAbove({ work: { view }, lit, roomPx, onLit }: Omit<Props, "printer"> & { roomPx: number }) {
  const play = usePlay(view);
  const frontPx = Math.round(roomPx * FRONT_SHARE);
  const common = { view, lit, play, onLit };
  return (
    <>
      <SheetPicture {...common} side="above" heightPx={roomPx - frontPx - 12} />
      <SheetPicture {...common} side="front" heightPx={frontPx} />
      <PlayRow play={play} view={view} />
    </>
  );
}

function PlayRow({ play, view }: { play: Play; view: SheetWork["view"] }) {
  const { isOn, isRunning, atS, totalS, rate } = play;
  return (
    <div className={styles.play}>
      <Button size="small" disabled={!view || totalS === 0} onClick={play.toggle}>
        {isRunning ? "Pause" : "Play"}
      </Button>
      {isOn && (
        <Button size="small" onClick={play.end}>
          End
        </Button>
      )}
      <input
        type="range"
        aria-label="Where in the print"
        min={0}
        max={Math.max(1, totalS)}
        step={Math.max(0.1, totalS / 1000)}
        value={atS}
        disabled={!view || totalS === 0}
        aria-valuetext={view ? sayPlace(view, atS) : undefined}
        onChange={({ target }) => play.seek(Number(target.value))}
      />
      <Choice
        label="How fast it is played"
        small
        value={rate}
        options={rates.map((value) => ({ value, label: value === 1 ? "real time" : `${value} × as fast` }))}
        onChange={(next) => play.setRate(Number(next))}
      />
      <span className="dim">{view && isOn ? sayPlace(view, atS) : ""}</span>
    </div>
  );
}

function sayPlace({ laid: { layerStarts, tops }, endS }: NonNullable<SheetWork["view"]>, atS: number): string {
  const layer = layerOfMove(layerStarts, placeAt({ endS }, atS).move);
  return `layer ${layer + 1} of ${tops.length}, ${sayDuration(atS)} of ${sayDuration(endS[endS.length - 1] ?? 0)}`;
}

function InSpace({ work: { view }, roomPx }: { work: SheetWork; roomPx: number }) {
  const [layer, setLayer] = useState<number | null>(null);
  const drawn = useMemo(
    () => view && { moves: view.laid.moves, layerStarts: Uint32Array.from(view.laid.layerStarts) },
    [view],
  );
  if (!view) return <Loading rows={8} />;
  const { tops } = view.laid;
  return (
    <PathView
      moves={drawn}
      bands={NO_BANDS}
      layer={Math.min(layer ?? tops.length - 1, tops.length - 1)}
      tops={tops}
      heightPx={roomPx + 40}
      onLayer={setLayer}
    />
  );
}

interface AlongProps {
  inspection: SheetInspection | null;
  printer: Printer;
  roomPx: number;
}

function Along({ inspection, printer, roomPx }: AlongProps) {
  const [cursor, setCursor] = useState(0);
  const columns = useMemo(
    () => inspection && figureColumns({ ...inspection.layers, meltsMm3S: printer.highestFlowMm3S }, [], NARROW),
    [inspection, printer],
  );
  if (!inspection || !columns) return <Loading rows={8} />;
  const { tops } = inspection.layers;
  if (tops.length === 0) return <p className="empty">Nothing is laid yet.</p>;
  return (
    <HeightLog
      label="Values along the height"
      columns={columns}
      bands={NO_BANDS}
      tops={tops}
      topMm={tops.reduce((most, top) => Math.max(most, top), 0)}
      cursorLayer={Math.min(cursor, tops.length - 1)}
      onCursor={setCursor}
      roomPx={roomPx - 60}
    />
  );
}

/** Marking more lines than this shows nothing that some of them do not. */
const MOST_MARKED = 4000;

function Program({ work: { view, inspection }, lit, roomPx }: { work: SheetWork; lit: Lit; roomPx: number }) {
  const text = useRef<ProgramTextHandle>(null);
  const marked = useMemo(() => markedLines(view, inspection, lit), [view, inspection, lit]);
  useEffect(() => {
    if (marked.length > 0) text.current?.goTo(marked[0]);
  }, [marked]);
  if (!inspection) return <Loading rows={8} />;
  const { bytes, layerLines } = inspection.program;
  return (
    <>
      <p className="dim line">
        <span>
          {lit.field === null ? "Point at a row: its lines are marked." : "Lines of the row that is lit are marked."}
        </span>
        <span>{`${plainNumber(bytes.length / 1024, 0)} kB, ${layerLines.length.toLocaleString("en")} layers`}</span>
      </p>
      <ProgramText ref={text} bytes={bytes} marked={marked} heightPx={roomPx - 20} />
    </>
  );
}

/** Lines (from 0) of the stroke or row that is lit. */
function markedLines(view: SheetWork["view"], inspection: SheetInspection | null, lit: Lit): number[] {
  if (!view || !inspection || lit.field === null) return [];
  const { row, stroke, fields } = view.laid;
  const { lineOfMove } = inspection.program;
  if (lineOfMove.length !== row.length) return [];
  const wanted = fieldsWithin(fields, lit.field);
  const lines: number[] = [];
  for (let i = 0; i < row.length && lines.length < MOST_MARKED; i++)
    if (lit.stroke === null ? wanted[row[i]] : stroke[i] === lit.stroke) lines.push(lineOfMove[i]);
  return lines;
}
