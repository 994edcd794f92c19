"use client";
/** Reading a printed piece: its bands on the log with their marks and what they say together, and the questions about one band. */
import { Choice } from "../common/choice";
import { HeightLog } from "../heightlog/height-log";
import { Chain } from "./chain";
import { Closer } from "./closer";
import { MatrixGrid } from "./matrix-grid";
import { PictureCard } from "./picture-card";
import { Questions } from "./questions";
import styles from "./reading.module.css";
import { ReadingKeys } from "./reading-keys";
import { UnitList } from "./unit-list";
import { ReadStepProps, ReadStepState, useReadStep } from "./use-read-step";
import { VerdictCard, WhatCounts } from "./verdict-card";

export function ReadStep(props: ReadStepProps) {
  const { trialId, runs, onRun, onKeep } = props;
  const state = useReadStep(props);
  const { run, verdict, weights, setWeight, marksCount, pictures, shown, setWanted } = state;
  return (
    <div className={`two-sides ${styles.sides}`}>
      <div>
        {runs.length > 1 && (
          <div className="line above">
            <Choice
              label="Piece"
              className="picker"
              value={run.id}
              options={runs.map(({ id, printedAt }) => ({
                value: id,
                label: `Printed ${printedAt.slice(0, 16).replace("T", ", ")}`,
              }))}
              onChange={onRun}
            />
          </div>
        )}
        <Piece state={state} />
        <div className={styles.outcome}>
          {marksCount && <WhatCounts rule={verdict?.rule ?? "best"} weights={weights} onWeight={setWeight} />}
          {verdict && (
            <VerdictCard
              trialId={trialId}
              run={run}
              verdict={verdict}
              weights={weights}
              onKeep={onKeep}
              onAsk={({ band, criterion }) => {
                state.setBand(band);
                state.setCriterion(criterion);
              }}
            />
          )}
        </div>
        <div className="above">
          <Chain trialId={trialId} />
        </div>
      </div>
      <div className="side">
        <Questions
          run={run}
          band={state.band}
          reading={state.reading}
          criterion={state.criterion}
          onCriterion={state.setCriterion}
          onStep={state.step}
        />
        <PictureCard trialId={trialId} run={run} pictures={pictures} shown={shown} onShow={setWanted} />
      </div>
    </div>
  );
}

/** The piece: its bands one above the other on the log, or its values side by side. */
function Piece({ state }: { state: ReadStepState }) {
  const { run, band, setBand, verdict, reading, criterion, shown, across, pieceLog } = state;
  if (pieceLog) return <PieceOnLog state={state} log={pieceLog} />;
  return (
    <>
      {shown && <img className={styles.whole} src={shown.url} alt={shown.label} />}
      {across > 0 ? (
        <MatrixGrid
          run={run}
          chosen={band}
          criterion={criterion}
          verdict={verdict}
          markOf={reading.markOf}
          onChoose={setBand}
          onPaint={(bands, mark) => void reading.markAll(bands, criterion, mark)}
        />
      ) : (
        <UnitList run={run} chosen={band.band} scores={verdict?.bands ?? []} onChoose={setBand} />
      )}
    </>
  );
}

type Log = NonNullable<ReadStepState["pieceLog"]>;

function PieceOnLog({ state, log: pieceLog }: { state: ReadStepState; log: Log }) {
  const { run, band, setBand, shown, beside, setBeside, pieceTopMm, columns, cursorLayer, roomPx } = state;
  return (
    <>
      {shown && (
        <Closer picture={shown} band={band} bands={run.bands} topMm={pieceTopMm} beside={beside} onBeside={setBeside} />
      )}
      <div className={styles.log}>
        <HeightLog
          label="Reading of the piece"
          columns={columns}
          bands={pieceLog.bands}
          tops={pieceLog.tops}
          topMm={pieceLog.topMm}
          cursorLayer={cursorLayer}
          onCursor={(layer) => {
            const found = pieceLog.bands.find(({ firstLayer, lastLayer }) => layer >= firstLayer && layer <= lastLayer);
            if (found) setBand(found.number);
          }}
          roomPx={roomPx}
          keys={<ReadingKeys />}
        />
      </div>
    </>
  );
}
