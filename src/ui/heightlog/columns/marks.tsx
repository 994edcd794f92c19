"use client";
import { GAP_PX, LogColumn, LogFrame } from "../column";

const ROW_PX = 17;

interface Marks {
  title: string;
  widthPx: number;
  marks: { heightMm: number; text: string }[];
}

/** What was done by hand, each at its height; those too close to be read stand above one another. */
export function marksColumn(marks: Marks): LogColumn {
  const { title, widthPx } = marks;
  return { title, widthPx, over: (frame) => <Drawing {...marks} {...frame} /> };
}

function Drawing({ leftPx: left, widthPx: width, marks, scale }: Marks & LogFrame) {
  let freeBelow = Infinity;
  return (
    <>
      {marks.map(({ heightMm, text }, i) => {
        const y = scale.y(heightMm);
        const top = Math.min(y - ROW_PX / 2, freeBelow - ROW_PX);
        freeBelow = top;
        return (
          <span key={i}>
            <span className="log-mark" style={{ left, top: y, width: width - GAP_PX }} aria-hidden />
            <span className="log-note mono log-mark-text" style={{ left: left + 10, top }}>
              {text}
            </span>
          </span>
        );
      })}
    </>
  );
}
