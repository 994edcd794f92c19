"use client";
import type { LogScale } from "./scale";

const ROW_PX = 17;

interface Props {
  left: number;
  width: number;
  marks: { heightMm: number; text: string }[];
  scale: LogScale;
}

/** What was done by hand, each at its height; those too close to be read stand above one another. */
export function MarksColumn({ left, width, marks, scale }: Props) {
  let freeBelow = Infinity;
  return (
    <>
      {marks.map(({ heightMm, text }, i) => {
        const y = scale.y(heightMm);
        const top = Math.min(y - ROW_PX / 2, freeBelow - ROW_PX);
        freeBelow = top;
        return (
          <span key={i}>
            <span className="log-mark" style={{ left, top: y, width: width - 12 }} aria-hidden />
            <span className="log-note mono log-mark-text" style={{ left: left + 10, top }}>
              {text}
            </span>
          </span>
        );
      })}
    </>
  );
}
