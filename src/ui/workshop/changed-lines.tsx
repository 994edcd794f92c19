"use client";
import { plainNumber } from "@/core/units";
import type { EditsAnswer } from "./file-editor";

/** Every line that is put in or taken out, with its place. */
export function ChangedLines({ answer }: { answer: EditsAnswer }) {
  if (answer.inserted.length === 0 && answer.removed.length === 0) {
    return <div className="empty">No line changes: the file comes out as it went in, byte for byte.</div>;
  }
  return (
    <div className="card sheet">
      <table className="grid-table">
        <thead>
          <tr>
            <th>Line</th>
            <th>Layer from 1</th>
            <th>From</th>
            <th>What happens</th>
          </tr>
        </thead>
        <tbody>
          {answer.inserted.map(({ line, layer, fromMm, text }) => (
            <tr key={`${line}-${text}`}>
              <td className="mono">before {line + 1}</td>
              <td className="mono">{layer + 1}</td>
              <td className="mono">{plainNumber(fromMm)} mm</td>
              <td className="mono">+ {text}</td>
            </tr>
          ))}
          {answer.removed.map(({ line }) => (
            <tr key={line}>
              <td className="mono">{line + 1}</td>
              <td />
              <td />
              <td>taken out</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
