"use client";

/** Names and figures, a row each; rows that are null are left out. */
export function Facts({ rows }: { rows: ([name: string, value: string] | null)[] }) {
  return (
    <dl className="facts">
      {rows.map(
        (row) =>
          row && (
            <div key={row[0]}>
              <dt>{row[0]}</dt>
              <dd>{row[1]}</dd>
            </div>
          ),
      )}
    </dl>
  );
}
