"use client";
import type { ToolsEdit } from "@/core/edits/kinds/tools";
import { NumberField } from "../../common/number-field";
import type { Sentence } from "./sentence";
import styles from "./sentence.module.css";

const heats = [
  { key: "firstC", label: "first layer", unit: "°C", high: 500 },
  { key: "laterC", label: "later", unit: "°C", high: 500 },
  { key: "idleC", label: "while another is in", unit: "°C", high: 500 },
  { key: "fan", label: "fan", unit: "%", high: 100 },
] as const;

export const toolsSentence: Sentence<"tools"> = {
  begin: "Heats of the tools",
  words: "tool heat idle two materials heater off extruder",
  short: () => "tools",
  fresh: ({ filament }) => ({ kind: "tools", tools: filament.map(({ tool }) => ({ tool })), allOff: true }),
  blanks: ({ edit, printer, onChange }) => {
    const set = (index: number, change: Partial<ToolsEdit["tools"][number]>) =>
      onChange({ ...edit, tools: edit.tools.map((one, i) => (i === index ? { ...one, ...change } : one)) });
    return (
      <>
        <table className={`grid-table ${styles.tools}`}>
          <thead>
            <tr>
              <th scope="col">Tool</th>
              {(printer?.tools ?? 1) > 1 && <th scope="col">is printed by</th>}
              {(printer?.tools ?? 1) > 1 && <th scope="col">stands off, mm</th>}
              {heats.map(({ key, label }) => (
                <th scope="col" key={key}>
                  {label}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {edit.tools.map((request, index) => (
              <tr key={request.tool}>
                <th scope="row">{request.tool}</th>
                {(printer?.tools ?? 1) > 1 && (
                  <td>
                    <NumberField
                      label={`Tool ${request.tool} is printed by tool`}
                      value={request.as ?? request.tool}
                      unit=""
                      low={0}
                      high={(printer?.tools ?? 1) - 1}
                      decimals={0}
                      width={30}
                      onChange={(as) => set(index, { as: as === request.tool ? undefined : as })}
                    />
                  </td>
                )}
                {(printer?.tools ?? 1) > 1 && (
                  <td>
                    {(["x", "y"] as const).map((axis) => (
                      <NumberField
                        key={axis}
                        label={`Tool ${request.tool} stands so far off, ${axis.toUpperCase()}`}
                        value={request.offset?.[axis]}
                        unit={axis.toUpperCase()}
                        low={-500}
                        high={500}
                        decimals={2}
                        width={34}
                        hint="–"
                        onChange={(mm) => set(index, { offset: { x: 0, y: 0, ...request.offset, [axis]: mm } })}
                        onEmpty={() => set(index, { offset: undefined })}
                      />
                    ))}
                  </td>
                )}
                {heats.map(({ key, label, unit, high }) => (
                  <td key={key}>
                    <NumberField
                      label={`Tool ${request.tool}, ${label}`}
                      value={request[key]}
                      unit={unit}
                      low={0}
                      high={high}
                      decimals={0}
                      width={44}
                      hint="–"
                      onChange={(value) => set(index, { [key]: value })}
                      onEmpty={() => set(index, { [key]: undefined })}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
        <label>
          <input
            type="checkbox"
            checked={edit.commentWaits ?? false}
            onChange={({ target }) => onChange({ ...edit, commentWaits: target.checked || undefined })}
          />{" "}
          {edit.tools.some(({ idleC }) => idleC !== undefined)
            ? "nothing is waited for inside the print, but where a cooled tool comes back"
            : "nothing is waited for inside the print"}
        </label>
        <label>
          <input
            type="checkbox"
            checked={edit.allOff}
            onChange={({ target }) => onChange({ ...edit, allOff: target.checked })}
          />{" "}
          every heater off at the end
        </label>
      </>
    );
  },
};
