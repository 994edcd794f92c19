"use client";
/** Printers drawn to one scale, and spools with how much is settled of them. What they show stands beside them in words. */
import type { SavedPrinter, SavedSpool } from "../common/api";
import styles from "./shelf-pictures.module.css";

/** Room of a picture, px, and the largest machine it holds: all are drawn to this one scale. */
const BOX = { widthPx: 92, heightPx: 76 };
const PX_PER_MM = 0.16;
/** A bed is seen from a little above: what lies behind goes up and to the right. */
const BACK = { right: 0.32, up: 0.3 };
/** Most of a build height is air: it is cut where the picture ends. */
const TOP_PX = 6;

/** The bed with the room above it, and a nozzle for each tool. */
export function PrinterPicture({ printer }: { printer: SavedPrinter }) {
  const { bedWidthMm, bedShape, buildHeightMm, tools } = printer;
  const depthMm = bedShape === "round" ? bedWidthMm : printer.bedDepthMm;
  const [width, depth] = [bedWidthMm * PX_PER_MM, depthMm * PX_PER_MM];
  const [right, up] = [depth * BACK.right, depth * BACK.up];
  const left = (BOX.widthPx - width - right) / 2;
  const bottom = BOX.heightPx - 4;
  const height = Math.min(buildHeightMm * PX_PER_MM, bottom - up - TOP_PX);
  const front = { x: left, y: bottom };
  const middle = left + (width + right) / 2;
  const bed =
    bedShape === "round"
      ? `M${middle - width / 2} ${bottom - up / 2}a${width / 2} ${up / 2 + 1} 0 1 0 ${width} 0a${width / 2} ${up / 2 + 1} 0 1 0 ${-width} 0z`
      : `M${front.x} ${front.y}h${width}l${right} ${-up}h${-width}z`;
  const top = bottom - up / 2 - height;
  return (
    <svg className={styles.picture} width={BOX.widthPx} height={BOX.heightPx} aria-hidden>
      <path className={styles.bed} d={bed} />
      <path
        className={styles.air}
        d={`M${left} ${bottom}v${-height}M${left + width} ${bottom}v${-height}M${left + width + right} ${bottom - up}v${-height}M${left} ${bottom - height}h${width}l${right} ${-up}`}
      />
      {Array.from({ length: tools }, (_, i) => {
        const x = middle + (i - (tools - 1) / 2) * 12;
        return <path key={i} className={styles.nozzle} d={`M${x - 4} ${top + 2}h8v6l-2.5 5h-3l-2.5 -5z`} />;
      })}
    </svg>
  );
}

const RADIUS_PX = 30;

/** A spool in its colour; the ring round it is as long as the share of its questions that are settled. */
export function SpoolPicture({ spool, kept, of }: { spool: SavedSpool; kept: number; of: number }) {
  const share = Math.min(1, kept / of);
  const round = 2 * Math.PI * (RADIUS_PX + 3);
  const centre = { cx: BOX.widthPx / 2, cy: BOX.heightPx / 2 };
  return (
    <svg className={styles.picture} width={BOX.widthPx} height={BOX.heightPx} aria-hidden>
      <circle {...centre} r={RADIUS_PX - 2} className={styles.flange} />
      <circle {...centre} r={20} fill="none" stroke={spool.colourHex} strokeWidth={12} />
      <circle {...centre} r={26} className={styles.turn} />
      <circle {...centre} r={14} className={styles.turn} />
      <circle {...centre} r={7} className={styles.hole} />
      <circle {...centre} r={RADIUS_PX + 3} className={styles.open} />
      {share > 0 && (
        <circle
          {...centre}
          r={RADIUS_PX + 3}
          className={styles.settled}
          strokeDasharray={`${round * share} ${round}`}
          transform={`rotate(-90 ${centre.cx} ${centre.cy})`}
        />
      )}
    </svg>
  );
}
