"use client";
/** Reading a piece: which band is asked about, what stands beside the bands, and what all marks say. */
import { useMemo, useState } from "react";
import type { CriterionKey } from "@/core/reading";
import type { Mark } from "@/core/reading/criterion";
import { settingFor } from "@/core/settings";
import { isBeside } from "@/core/trials/run";
import { useRoom } from "../common/use-room";
import type { LogBand, LogColumn } from "../heightlog/column";
import { millimetresColumn } from "../heightlog/columns/millimetres";
import { valuesColumn } from "../heightlog/columns/values";
import { logBands } from "../trials/log-bands";
import { pictureColumn } from "./laid-picture";
import { marksColumn } from "./marks-column";
import { usePictures } from "./pictures";
import { useReadingKeys } from "./reading-keys";
import type { SentRun } from "./run-data";
import { scoresColumn } from "./scores-column";
import { useReading, useVerdict, useWeights } from "./use-runs";

export interface ReadStepProps {
  trialId: number;
  runs: SentRun[];
  runId: number | null;
  onRun(id: number): void;
  front: LogColumn;
  /** Width of the piece, mm. */
  widthMm: number;
  onKeep(): void;
}

/** Above and below the log, and what the larger band takes of it, px. */
const AROUND_PX = 460;
const CLOSER_PX = 150;
const FRONT_PX = 216;

/** What the step knows and what can be done in it. */
export function useReadStep({
  trialId,
  runs,
  runId,
  front,
  widthMm,
}: Pick<ReadStepProps, "trialId" | "runs" | "runId" | "front" | "widthMm">) {
  const run = runs.find(({ id }) => id === runId) ?? runs[0];
  const reading = useReading(trialId, run);
  const { weights, setWeight } = useWeights();
  const verdict = useVerdict(run, weights);
  const [chosenBand, setBand] = useState<number | null>(null);
  const readable = run.bands.filter(({ counts }) => counts);
  const band = run.bands.find(({ band: number }) => number === chosenBand) ?? readable[0] ?? run.bands[0];
  const [criterion, setCriterion] = useState<CriterionKey>(run.criteria[0].key);
  const at = run.bands.indexOf(band);
  // Where every place is asked for another width, lengths alone tell.
  const marksCount = run.bands.every(({ wantedMm }) => wantedMm === undefined);
  const step = (by: number) => setBand(run.bands[Math.min(run.bands.length - 1, Math.max(0, at + by))].band);
  const mark = (mark: Mark | null) => void reading.mark(band.band, criterion, mark);
  const pictures = usePictures(run);
  const [wanted, setWanted] = useState<string | null>();
  // A picture of the piece itself says more than the drawing of its plan.
  const shown = wanted === null ? null : (pictures.find(({ key }) => key === wanted) ?? pictures[0] ?? null);
  const [beside, setBeside] = useState<number | null>(null);
  const turn = () => {
    const other = pictures.find(
      ({ side, photo }) =>
        shown !== null && side !== shown.side && (photo === undefined) === (shown.photo === undefined),
    );
    if (other) setWanted(other.key);
  };
  // A field of two settings has rows: up and down go from row to row.
  const across = columnsOf(run);
  useReadingKeys({ step: (by) => step(by * Math.max(1, across)), mark, turn, side: across > 0 ? step : undefined });
  const pieceLog = usePieceLog(run);
  const roomPx = useRoom(AROUND_PX + (shown ? CLOSER_PX : 0));
  const pieceTopMm = run.reachedMm ?? pieceLog?.topMm ?? 0;
  const setting = settingFor(run.setting);
  const columns = useMemo(
    (): LogColumn[] => [
      millimetresColumn(),
      shown ? pictureColumn(shown, FRONT_PX, { topMm: pieceTopMm, widthMm }) : front,
      marksColumn({
        criteria: run.criteria,
        chosen: criterion,
        chosenBand: band.band,
        markOf: reading.markOf,
        onChoose: (number, key) => {
          setBand(number);
          setCriterion(key);
        },
      }),
      scoresColumn(verdict),
      valuesColumn({
        title: setting.unit,
        widthPx: 96,
        values: {
          unit: setting.unit,
          low: setting.lowest,
          high: setting.highest,
          step: setting.step,
          decimals: setting.decimals,
          of: ({ number }) => run.bands[number - 1]?.value ?? null,
        },
      }),
    ],
    [front, shown, pieceTopMm, widthMm, run, criterion, band.band, reading.markOf, verdict, setting],
  );
  const cursorLayer = pieceLog?.bands[at]
    ? Math.floor((pieceLog.bands[at].firstLayer + pieceLog.bands[at].lastLayer) / 2)
    : 0;
  return {
    run,
    reading,
    weights,
    setWeight,
    verdict,
    band,
    setBand,
    criterion,
    setCriterion,
    marksCount,
    step,
    pictures,
    shown,
    setWanted,
    beside,
    setBeside,
    across,
    pieceLog,
    roomPx,
    pieceTopMm,
    columns,
    cursorLayer,
  };
}

export type ReadStepState = ReturnType<typeof useReadStep>;

/** How many values stand side by side in each band; 0 where none do. */
const columnsOf = ({ bands }: SentRun) => Math.max(-1, ...bands.map(({ column = -1 }) => column)) + 1;

/** The bands of a piece on the log; null where its values stand side by side. */
function usePieceLog(run: SentRun): { bands: LogBand[]; tops: Float64Array; topMm: number } | null {
  return useMemo(() => {
    if (isBeside(run)) return null;
    return logBands(run.trial, run.setting, ({ index }) => run.bands[index]?.why || undefined);
  }, [run]);
}
