"use client";
/**
 * What is believed of the piece: how good it is up the height, as a band in which the score lies in 9 of 10, the scores of the marks as dots,
 * and the range that holds what is looked for.
 */
import type { Verdict } from "@/core/reading/verdict";
import { HIGHEST_MARK } from "@/core/reading/criterion";
import styles from "./reading.module.css";
import type { LogBand, LogColumn, LogFrame } from "../heightlog/column";

const WIDTH_PX = 150;
const EDGE_PX = 12;

export function scoresColumn(verdict: Verdict | null): LogColumn {
  return {
    title: "Together",
    widthPx: WIDTH_PX,
    hasGround: true,
    drawing: (frame) => <Drawing verdict={verdict} {...frame} />,
  };
}

const middleOf = ({ fromMm, toMm }: LogBand) => (fromMm + toMm) / 2;

/** The height at which a value would stand, between the middles of the bands next to it; null outside them. */
function heightOf(value: number, points: { value: number; mm: number }[]): number | null {
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1], points[i]];
    if ((value - a.value) * (value - b.value) > 0) continue;
    const share = a.value === b.value ? 0.5 : (value - a.value) / (b.value - a.value);
    return a.mm + share * (b.mm - a.mm);
  }
  return null;
}

function Drawing({ verdict, bands, scale }: LogFrame & { verdict: Verdict | null }) {
  const inside = WIDTH_PX - 12 - 2 * EDGE_PX;
  const x = (score: number) => EDGE_PX + (score / HIGHEST_MARK) * inside;
  const known = bands.flatMap((band) => {
    const scored = verdict?.bands.find((one) => one.band === band.number);
    return scored ? [{ ...scored, mm: middleOf(band) }] : [];
  });
  const scored = known.filter(({ score }) => score !== null);
  const at = (value: number | null) => (value === null ? null : heightOf(value, known));
  const [best, from, to] = [at(verdict?.value ?? null), at(verdict?.fromValue ?? null), at(verdict?.toValue ?? null)];
  const believed = (verdict?.curve ?? []).flatMap((one) => {
    const mm = at(one.value);
    return mm === null ? [] : [{ ...one, mm }];
  });
  const along = (of: (one: (typeof believed)[number]) => number, all = believed) =>
    all.map((one) => `${x(of(one))},${scale.y(one.mm)}`).join(" ");
  return (
    <svg width={WIDTH_PX - 12} height={scale.heightPx} className={styles.drawing} aria-hidden>
      {from !== null && to !== null && (
        <rect
          x={0}
          width={WIDTH_PX - 12}
          y={Math.min(scale.y(from), scale.y(to))}
          height={Math.max(2, Math.abs(scale.y(from) - scale.y(to)))}
          fill="var(--mustard)"
          opacity={0.22}
        />
      )}
      {best !== null && (
        <line x1={0} x2={WIDTH_PX - 12} y1={scale.y(best)} y2={scale.y(best)} stroke="var(--mustard)" strokeWidth={2} />
      )}
      <polygon
        points={`${along(({ low }) => low)} ${along(({ high }) => high, [...believed].reverse())}`}
        fill="var(--primary)"
        opacity={0.16}
      />
      <polyline points={along(({ middle }) => middle)} fill="none" stroke="var(--primary)" strokeWidth={1.8} />
      {scored.map(({ band, score, mm, counts }) => (
        <g key={band} opacity={counts ? 1 : 0.4}>
          <circle
            cx={x(score!)}
            cy={scale.y(mm)}
            r={4}
            fill="var(--surface)"
            stroke="var(--primary)"
            strokeWidth={1.8}
          />
        </g>
      ))}
    </svg>
  );
}
