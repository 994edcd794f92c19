"use client";
import { GAP_PX, LogColumn, LogFrame } from "../column";
import styles from "../height-log.module.css";

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
            <span className={styles.mark} style={{ left, top: y, width: width - GAP_PX }} aria-hidden />
            <span className={`${styles.note} mono ${styles.markText}`} style={{ left: left + 10, top }}>
              {text}
            </span>
          </span>
        );
      })}
    </>
  );
}
