"use client";
/** The values of a setting as a table: for reading, where the scale is for looking. */
import type { Known } from "@/core/values/known";
import { plainNumber } from "@/core/units";
import { PointedLink } from "../common/pointed-link";
import { When } from "../common/when";
import styles from "./known-page.module.css";

export function KnownTable({ known: { values, unit, label, decimals, outOfLine } }: { known: Known }) {
  const odd = new Set(outOfLine.map(({ id }) => id));
  return (
    <div className={styles.scroll} tabIndex={0} role="region" aria-label={`${label} as a table`}>
      <table className={styles.table}>
        <thead>
          <tr>
            <th scope="col">
              {label}
              {unit && `, ${unit}`}
            </th>
            <th scope="col">From, to</th>
            <th scope="col">Spool</th>
            <th scope="col">Printer</th>
            <th scope="col">Nozzle, mm</th>
            <th scope="col">Kept</th>
          </tr>
        </thead>
        <tbody>
          {values.map((one) => (
            <tr key={one.id}>
              <th scope="row" className="mono">
                {plainNumber(one.value, decimals + 1)}
              </th>
              <td className="mono">
                {one.fromValue !== null && one.toValue !== null
                  ? `${plainNumber(one.fromValue, decimals + 1)} to ${plainNumber(one.toValue, decimals + 1)}`
                  : "–"}
              </td>
              <td>
                <i className="swatch" style={{ background: one.colourHex }} /> {one.spool}
                {odd.has(one.id) && <span className="dim"> · out of line</span>}
              </td>
              <td>{one.printer}</td>
              <td className="mono">{plainNumber(one.nozzleMm)}</td>
              <td>
                {one.trialId === null ? (
                  <When at={one.keptAt} format="D MMM YYYY" />
                ) : (
                  <PointedLink href={`/trials/${one.trialId}`}>
                    <When at={one.keptAt} format="D MMM YYYY" />
                  </PointedLink>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
