"use client";
/** What hands do in a measured tune, as a small drawing: before the printer acts, and when it has. One drawing a thing that is measured. */
import type { ReactNode } from "react";
import type { TuneDrawing } from "@/core/measure/tune";
import styles from "./drawing.module.css";

/** Before the printer acts, or after it has. */
export type Moment = "before" | "after";

interface Drawn {
  /** What is to be seen, for those who do not see it. */
  says: Record<Moment, string>;
  draw(moment: Moment): ReactNode;
}

const WIDTH = 220;
const HEIGHT = 140;

/** An arrow from one place to another, with its head. */
function Arrow({ from, to }: { from: [number, number]; to: [number, number] }) {
  const angle = Math.atan2(to[1] - from[1], to[0] - from[0]);
  const wing = (turn: number) => `${to[0] - 7 * Math.cos(angle + turn)} ${to[1] - 7 * Math.sin(angle + turn)}`;
  return (
    <path
      className={styles.arrow}
      d={`M${from.join(" ")}L${to.join(" ")}M${wing(0.5)}L${to.join(" ")}L${wing(-0.5)}`}
    />
  );
}

/** A ruler along X or down Y, a tick every `step`. */
function Ruler({ x, y, length, isUpright }: { x: number; y: number; length: number; isUpright?: boolean }) {
  const ticks = Array.from({ length: Math.floor(length / 8) + 1 }, (_, i) => {
    const tall = i % 5 === 0 ? 10 : 5;
    return isUpright ? `M${x} ${y + i * 8}h${tall}` : `M${x + i * 8} ${y}v${tall}`;
  });
  return (
    <>
      <rect
        className={styles.tool}
        x={x}
        y={y}
        width={isUpright ? 18 : length}
        height={isUpright ? length : 18}
        rx={2}
      />
      <path className={styles.fine} d={ticks.join("")} />
    </>
  );
}

/** The drive with its gear, filament entering from above. */
function Extruder({ markY, bottomY = 132 }: { markY: number; bottomY?: number }) {
  return (
    <>
      <path className={styles.filament} d={`M110 6V${bottomY}`} />
      <rect className={styles.body} x={82} y={84} width={56} height={36} rx={4} />
      <circle className={styles.gear} cx={98} cy={102} r={11} />
      <circle className={styles.gear} cx={122} cy={102} r={8} />
      <path className={styles.mark} d={`M103 ${markY}h14`} />
    </>
  );
}

const Nozzle = ({ x, y }: { x: number; y: number }) => (
  <path className={styles.body} d={`M${x - 12} ${y - 34}h24v18l-8 16h-8l-8-16z`} />
);

const drawings: Record<TuneDrawing, Drawn> = {
  filament: {
    says: {
      before: "A mark on the filament, 120 mm above the extruder, measured with a ruler",
      after: "The mark has come closer: measure what is left between it and the extruder",
    },
    draw: (moment) => (
      <>
        <Ruler x={144} y={moment === "before" ? 12 : 58} length={moment === "before" ? 72 : 26} isUpright />
        <Extruder markY={moment === "before" ? 12 : 60} />
        {moment === "after" && <Arrow from={[74, 16]} to={[74, 58]} />}
      </>
    ),
  },
  feeds: {
    says: {
      before: "Marks on the filament every ten millimetres above the extruder",
      after: "Count the marks that went in at each feed",
    },
    draw: (moment) => (
      <>
        <Extruder markY={12} />
        <path className={styles.mark} d={Array.from({ length: 7 }, (_, i) => `M104 ${14 + i * 10}h12`).join("")} />
        {moment === "after" && (
          <>
            <Arrow from={[70, 14]} to={[70, 40]} />
            <Arrow from={[70, 46]} to={[70, 62]} />
            <Arrow from={[70, 68]} to={[70, 78]} />
          </>
        )}
      </>
    ),
  },
  way: {
    says: {
      before: "The nozzle at the start of its way, beside a ruler",
      after: "The nozzle has moved: read the way on the ruler",
    },
    draw: (moment) => (
      <>
        <path className={styles.ground} d="M14 112h192" />
        <Ruler x={30} y={112} length={160} />
        <Nozzle x={moment === "before" ? 40 : 170} y={104} />
        {moment === "after" && <Arrow from={[50, 54]} to={[168, 54]} />}
      </>
    ),
  },
  wall: {
    says: {
      before: "A box with one wall, left to cool",
      after: "A calliper on the middle of a wall, away from corners and seam",
    },
    draw: (moment) => (
      <>
        <path className={styles.piece} d="M50 44l60-22 60 22v66l-60 22-60-22z" />
        <path className={styles.fine} d="M50 44l60 22 60-22M110 66v66" />
        {moment === "after" && <path className={styles.tool} d="M20 8h96v12h-18v26h-8V20h-8v22h-8V20H20z" />}
      </>
    ),
  },
  cross: {
    says: {
      before: "The middle of the bed marked by two lines from corner to corner",
      after: "The nozzle beside the mark: how far to the right, and how far to the back",
    },
    draw: (moment) => (
      <>
        <rect className={styles.bed} x={40} y={14} width={140} height={112} rx={4} />
        <path className={styles.fine} d="M40 14l140 112M180 14L40 126" />
        <circle className={styles.spot} cx={110} cy={70} r={3.5} />
        {moment === "after" && (
          <>
            <circle className={styles.gear} cx={134} cy={52} r={6} />
            <Arrow from={[110, 92]} to={[134, 92]} />
            <Arrow from={[154, 70]} to={[154, 52]} />
          </>
        )}
      </>
    ),
  },
  swing: {
    says: {
      before: "A heater at its usual temperature",
      after: "The temperature rises and swings about the one it is to hold",
    },
    draw: (moment) => (
      <>
        <path className={styles.ground} d="M24 12v112h180" />
        <path className={styles.fine} strokeDasharray="4 4" d="M24 52h180" />
        <path
          className={styles.curve}
          d={
            moment === "before"
              ? "M24 116C70 108 96 66 130 56S180 52 204 52"
              : "M24 116C52 100 58 34 82 34s20 38 42 38 18-36 40-36 16 30 38 30"
          }
        />
      </>
    ),
  },
  parts: {
    says: {
      before: "A motor, its pulley with the belt, and the numbers printed on them",
      after: "Steps for a millimetre follow from steps a turn, microsteps and teeth",
    },
    draw: () => (
      <>
        <rect className={styles.body} x={26} y={46} width={64} height={64} rx={5} />
        <path className={styles.fine} d="M34 92h40M34 100h26" />
        <circle className={styles.gear} cx={58} cy={66} r={12} />
        <circle className={styles.gear} cx={172} cy={66} r={12} />
        <path className={styles.arrow} d="M58 52h114M58 80h114" />
        <path className={styles.fine} d={Array.from({ length: 12 }, (_, i) => `M${66 + i * 9} 52v4`).join("")} />
      </>
    ),
  },
  pull: {
    says: {
      before: "A nozzle with the filament drawn back",
      after: "Look at the tip: does it ooze while it waits?",
    },
    draw: (moment) => (
      <>
        <path className={styles.filament} d={moment === "before" ? "M110 6v44" : "M110 6v56"} />
        <path className={styles.body} d="M84 36h52v40l-18 34h-16L84 76z" />
        {moment === "before" ? (
          <Arrow from={[156, 74]} to={[156, 34]} />
        ) : (
          <path className={styles.drop} d="M110 112c-5 8-6 12 0 14 6-2 5-6 0-14z" />
        )}
      </>
    ),
  },
};

/** The drawing of a tune at one of its two moments; in a list it stands beside its words and says nothing. */
export function Drawing({ of, moment, small }: { of: TuneDrawing; moment: Moment; small?: boolean }) {
  const { says, draw } = drawings[of];
  const scale = small ? 0.42 : 1;
  return (
    <svg
      className={styles.drawing}
      width={WIDTH * scale}
      height={HEIGHT * scale}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role={small ? undefined : "img"}
      aria-label={small ? undefined : says[moment]}
      aria-hidden={small ? true : undefined}
    >
      {draw(moment)}
    </svg>
  );
}
