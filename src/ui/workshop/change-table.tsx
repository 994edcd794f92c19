"use client";
/** A plan for an opened file as a table: from where, until where, which setting, which value. */
import { Button } from "antd";
import { useState } from "react";
import type { Change } from "@/core/heightplan/change";
import { plainNumber } from "@/core/units";
import type { BriefTrial } from "@/core/trials/brief";
import { changesOfTrial } from "@/core/trials/changes-of-trial";
import type { Trial } from "@/core/trials/trial";
import { Segments } from "../common/segments";
import { Choice } from "../common/choice";
import { api } from "../common/api";
import { useTell } from "../common/talk";
import { ChangeRow } from "./change-row";
import { FillChanges } from "./fill-changes";
import { nextChange } from "./next-change";
import { LinesDialog } from "../common/dialogs-later";
import { convertPlace, PlaceMode, placeModes } from "./places";

interface Props {
  changes: Change[];
  layers: readonly { zMm: number; heightMm: number }[];
  mode: PlaceMode;
  /** Tools of the printer. */
  tools: number;
  trials: BriefTrial[];
  onMode(mode: PlaceMode): void;
  onChange(changes: Change[]): void;
}

export function ChangeTable({ changes, layers, mode, tools, trials, onMode, onChange }: Props) {
  const tell = useTell();
  const [linesOf, setLinesOf] = useState<number | null>(null);
  const top = layers[layers.length - 1]?.zMm ?? 0;
  const [chosen, setChosen] = useState<number | null>(null);
  const takePlan = async (id: number) => {
    try {
      const laid = changesOfTrial(await api.get<Trial>(`/trials/${id}`));
      onChange(laid.map((change) => ({ ...change, from: convertPlace(change.from, mode, layers) })));
      setChosen(null);
    } catch (error) {
      tell.error(error);
    }
  };
  const set = (index: number, change: Partial<Change>) =>
    onChange(changes.map((one, i) => (i === index ? { ...one, ...change } : one)));
  return (
    <div>
      <div className="line apart">
        <Segments label="Count by" options={placeModes} value={mode} onChange={(next) => onMode(next)} />
        <Button onClick={() => onChange([...changes, nextChange(changes, mode, layers)])}>Add a change</Button>
        <FillChanges mode={mode} onFill={onChange} />
        <Choice
          label="Take a trial's plan"
          className="picker"
          hint="Take a trial's plan …"
          value={chosen}
          options={trials.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={(id) => setChosen(id)}
        />
        {chosen !== null && <Button onClick={() => void takePlan(chosen)}>Take it</Button>}
      </div>
      {changes.length === 0 ? (
        <div className="empty">
          <p>
            No change yet. The piece is {plainNumber(top)} mm high and has {layers.length} layers.
          </p>
          <p>Take a trial’s plan, fill in even steps, or add changes one by one.</p>
        </div>
      ) : (
        <div className="card sheet">
          <table className="grid-table">
            <thead>
              <tr>
                <th>From</th>
                <th>Until</th>
                <th>Setting</th>
                <th>Value</th>
                {tools > 1 && <th>Tool</th>}
                <th>Own lines</th>
                <th>
                  <span className="visually-hidden">Remove</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {changes.map((change, index) => (
                <ChangeRow
                  key={index}
                  change={change}
                  index={index}
                  layers={layers}
                  mode={mode}
                  tools={tools}
                  onSet={(part) => set(index, part)}
                  onLines={() => setLinesOf(index)}
                  onRemove={() => onChange(changes.filter((_, i) => i !== index))}
                />
              ))}
            </tbody>
          </table>
        </div>
      )}
      {linesOf !== null && changes[linesOf] && (
        <LinesDialog
          title={`Own lines of change ${linesOf + 1}`}
          lines={changes[linesOf].lines ?? []}
          onClose={() => setLinesOf(null)}
          onTake={(lines) => set(linesOf, { lines: lines.length > 0 ? lines : undefined })}
        />
      )}
    </div>
  );
}
