"use client";
/** A list of any length: short ones as they are, of long ones only the rows in sight. */
import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { ReactNode, useLayoutEffect, useRef, useState } from "react";

/** So many rows are drawn as they are. */
const PLAIN_ROWS = 80;

interface Props<T> {
  label: string;
  rows: readonly T[];
  rowPx: number;
  className?: string;
  keyOf(row: T): string | number;
  children(row: T): ReactNode;
}

export function LongList<T>(props: Props<T>) {
  const { label, rows, keyOf, className, children } = props;
  if (rows.length > PLAIN_ROWS) return <Windowed {...props} />;
  return (
    <ul className="rows" aria-label={label}>
      {rows.map((row) => (
        <li key={keyOf(row)} className={className}>
          {children(row)}
        </li>
      ))}
    </ul>
  );
}

function Windowed<T>({ label, rows, rowPx, keyOf, className, children }: Props<T>) {
  const list = useRef<HTMLUListElement>(null);
  const [topPx, setTop] = useState(0);
  useLayoutEffect(() => setTop(list.current?.offsetTop ?? 0), []);
  const virtual = useWindowVirtualizer({
    count: rows.length,
    estimateSize: () => rowPx,
    overscan: 8,
    scrollMargin: topPx,
    getItemKey: (index) => keyOf(rows[index]),
  });
  return (
    <ul ref={list} className="rows" aria-label={label} style={{ height: virtual.getTotalSize(), position: "relative" }}>
      {virtual.getVirtualItems().map(({ key, index, start }) => (
        <li
          key={key}
          ref={virtual.measureElement}
          data-index={index}
          aria-setsize={rows.length}
          aria-posinset={index + 1}
          className={className}
          style={{ position: "absolute", insetInline: 0, transform: `translateY(${start - topPx}px)` }}
        >
          {children(rows[index])}
        </li>
      ))}
    </ul>
  );
}
