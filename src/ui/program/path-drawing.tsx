"use client";
/** The path a program draws, from above and from the side, with the bed, its middle and the head. */
import { laysMaterial, MoveKind, MoveTable } from "@/core/gcode/moves";
import { bedCentre, bedDepthMm, headOf, Printer } from "@/core/shelf/printer";
import { plainNumber } from "@/core/units";
import styles from "./program-page.module.css";

interface Props {
  moves: MoveTable;
  printer: Printer;
  /** The line under the cursor, from 0: what comes behind it is paler. */
  line: number;
  head: { x: number; y: number; z: number };
}

const WIDTH_PX = 320;
const ROOM_PX = 10;
const SIDE_PX = 90;
/** The side shows so much at least, mm. */
const LOWEST_TOP_MM = 20;

export function PathDrawing({ moves, printer, line, head }: Props) {
  const middle = bedCentre(printer);
  const depthMm = bedDepthMm(printer);
  const perMm = (WIDTH_PX - 2 * ROOM_PX) / printer.bedWidthMm;
  const x = (mm: number) => ROOM_PX + (mm - middle.x + printer.bedWidthMm / 2) * perMm;
  const y = (mm: number) => ROOM_PX + (middle.y + depthMm / 2 - mm) * perMm;
  const heightPx = depthMm * perMm + 2 * ROOM_PX;
  const topMm = moves.z.reduce((top, z) => Math.max(top, z), LOWEST_TOP_MM);
  const perMmUp = (SIDE_PX - 2 * ROOM_PX) / topMm;
  const up = (mm: number) => SIDE_PX - ROOM_PX - mm * perMmUp;
  const radiusPx = headOf(printer).radiusMm * perMm;
  const place = `X${plainNumber(head.x, 1)} Y${plainNumber(head.y, 1)} Z${plainNumber(head.z, 2)} mm`;
  return (
    <section className="card" aria-label="What it draws">
      <h2>From above</h2>
      <svg
        className={styles.drawing}
        viewBox={`0 0 ${WIDTH_PX} ${heightPx}`}
        role="img"
        aria-label={`The path from above; the nozzle at ${place}`}
      >
        {printer.bedShape === "round" ? (
          <circle cx={x(middle.x)} cy={y(middle.y)} r={(printer.bedWidthMm / 2) * perMm} className={styles.bed} />
        ) : (
          <rect
            x={ROOM_PX}
            y={ROOM_PX}
            width={printer.bedWidthMm * perMm}
            height={depthMm * perMm}
            rx={4}
            className={styles.bed}
          />
        )}
        <path
          d={`M${x(middle.x) - 6} ${y(middle.y)}h12M${x(middle.x)} ${y(middle.y) - 6}v12`}
          className={styles.middle}
        />
        <Paths moves={moves} line={line} across={(i) => x(moves.x[i])} along={(i) => y(moves.y[i])} />
        <circle cx={x(head.x)} cy={y(head.y)} r={radiusPx} className={styles.head} />
        <circle cx={x(head.x)} cy={y(head.y)} r={3.5} className={styles.nozzle} />
      </svg>
      <h2>From the side</h2>
      <svg
        className={styles.drawing}
        viewBox={`0 0 ${WIDTH_PX} ${SIDE_PX}`}
        role="img"
        aria-label={`The path from the front side; the nozzle at ${plainNumber(head.z, 2)} mm`}
      >
        <line x1={ROOM_PX} x2={WIDTH_PX - ROOM_PX} y1={up(0)} y2={up(0)} className={styles.ground} />
        <Paths moves={moves} line={line} across={(i) => x(moves.x[i])} along={(i) => up(moves.z[i])} />
        <path d={`M${x(head.x)} ${up(head.z)}l-7 -14h14Z`} className={styles.nozzle} />
      </svg>
      <p className="mono dim">{place}</p>
    </section>
  );
}

interface PathsProps {
  moves: MoveTable;
  line: number;
  across(move: number): number;
  along(move: number): number;
}

/** Travels thin and dashed, what is laid bold; what comes behind the cursor paler. */
function Paths({ moves, line, across, along }: PathsProps) {
  const paths = { travel: "", laid: "", laterTravel: "", laterLaid: "" };
  for (let i = 1; i < moves.count; i++) {
    if (moves.kind[i] === MoveKind.home || moves.kind[i - 1] === MoveKind.home) continue;
    const lays = laysMaterial(moves.kind[i]);
    const isLater = moves.line[i] > line;
    const key = isLater ? (lays ? "laterLaid" : "laterTravel") : lays ? "laid" : "travel";
    paths[key] +=
      `M${across(i - 1).toFixed(1)} ${along(i - 1).toFixed(1)}L${across(i).toFixed(1)} ${along(i).toFixed(1)}`;
  }
  return (
    <>
      <path d={paths.laterTravel} className={`${styles.travel} ${styles.later}`} />
      <path d={paths.laterLaid} className={`${styles.laid} ${styles.later}`} />
      <path d={paths.travel} className={styles.travel} />
      <path d={paths.laid} className={styles.laid} />
    </>
  );
}
