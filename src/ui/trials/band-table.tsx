"use client";
/** The bands as a table: edit, add, remove, fill, paste, export. Top band first, as on the piece. */
import { useState } from "react";
import { holdSetting, setLines } from "@/core/heightplan/reshape";
import { HeightPlan, ResolvedBand } from "@/core/heightplan/plan";
import { SettingKey, settingFor, SettingValues } from "@/core/settings";
import { NumberField } from "../common/number-field";
import { BandRow } from "./band-row";
import { BandTools } from "./band-tools";
import { LinesDialog } from "../common/dialogs-later";
import { PasteDialog } from "./dialogs-later";

interface Props {
  trialId: number;
  plan: HeightPlan;
  bands: ResolvedBand[];
  colours: string[];
  /** The settings that vary, the one the trial is about first. */
  varied: SettingKey[];
  /** What holds where nobody has said anything. */
  usualOf(key: SettingKey): number;
  /** What the trial holds fixed: where a setting starts from when it begins to vary. */
  fixed: SettingValues;
  cursorBand: number | undefined;
  onChange(change: (plan: HeightPlan) => HeightPlan): void;
  onFill(): void;
  /** Called before an export, so that what is exported is stored. */
  flush(): Promise<void>;
}

export function BandTable(props: Props) {
  const { trialId, plan, bands, colours, varied, fixed, usualOf, cursorBand, onChange, onFill, flush } = props;
  const [pasting, setPasting] = useState(false);
  const [linesOf, setLinesOf] = useState<number | null>(null);
  const beginsWith = (key: SettingKey) => fixed[key] ?? usualOf(key);
  return (
    <div>
      <BandTools
        trialId={trialId}
        plan={plan}
        varied={varied}
        beginsWith={beginsWith}
        onChange={onChange}
        onFill={onFill}
        onPaste={() => setPasting(true)}
        flush={flush}
      />
      <div className="card sheet">
        <table className="grid-table">
          <thead>
            <tr>
              <th>Band</th>
              {varied.map((key) => (
                <th key={key}>
                  {settingFor(key).label}
                  {varied.length > 1 && (
                    <>
                      {" "}
                      <button
                        className="link-button"
                        aria-label={`Stop varying ${settingFor(key).label.toLowerCase()}`}
                        onClick={() => onChange((now) => holdSetting(now, key))}
                      >
                        stop
                      </button>
                    </>
                  )}
                </th>
              ))}
              <th>Height</th>
              <th>From – to, on layers</th>
              <th>Layers from 1</th>
              <th>Own lines</th>
              <th>
                <span className="visually-hidden">Remove</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {[...bands].reverse().map((band) => (
              <BandRow
                key={band.number}
                plan={plan}
                band={band}
                colour={colours[band.number - 1]}
                varied={varied}
                beginsWith={beginsWith}
                isCursor={cursorBand === band.number}
                onChange={onChange}
                onLines={() => setLinesOf(band.number - 1)}
              />
            ))}
            <tr>
              <td>Base</td>
              {varied.map((key, i) => (
                <td key={key} className="dim">
                  {i > 0 ? "" : key === "nozzleTemperature" || key === "bedTemperature" ? "like band 1" : "as usual"}
                </td>
              ))}
              <td>
                <NumberField
                  label="Height of the base"
                  value={plan.baseHeightMm}
                  unit="mm"
                  low={0}
                  high={50}
                  width={48}
                  onChange={(baseHeightMm) => onChange((now) => ({ ...now, baseHeightMm }))}
                />
              </td>
              <td className="mono">from the bed</td>
              <td />
              <td />
              <td />
            </tr>
          </tbody>
        </table>
      </div>
      <PasteDialog
        open={pasting}
        plan={plan}
        keys={varied}
        onClose={() => setPasting(false)}
        onTake={(next) => onChange(() => next)}
      />
      {linesOf !== null && (
        <LinesDialog
          title={`Own lines of band ${linesOf + 1}`}
          lines={plan.bands[linesOf]?.lines ?? []}
          onClose={() => setLinesOf(null)}
          onTake={(lines) => onChange((now) => setLines(now, linesOf, lines))}
        />
      )}
    </div>
  );
}
