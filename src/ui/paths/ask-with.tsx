"use client";
/** A trial whose piece is a sheet: what to find out with it. */
import { Modal } from "antd";
import { useState } from "react";
import type { Sheet } from "@/core/sheets/sheet";
import { trialKindFor, TrialKindKey, trialKindKeys } from "@/core/trials";
import { takesSheet } from "@/core/trials/sheet-piece";
import { Choice } from "../common/choice";
import { useStartTrial } from "../trials/start-trial";

const kinds = trialKindKeys.filter((kind) => takesSheet(kind));

interface Props {
  sheet: Sheet;
  printerId: number;
  spoolId: number;
  onClose(): void;
}

export function AskWith({ sheet, printerId, spoolId, onClose }: Props) {
  const [kind, setKind] = useState<TrialKindKey>("temperature");
  const { start, starting } = useStartTrial();
  return (
    <Modal
      open
      title={`Ask something with “${sheet.name}”`}
      okText="Make the trial"
      okButtonProps={{ className: "go" }}
      confirmLoading={starting}
      onCancel={onClose}
      onOk={() => void start(kind, printerId, spoolId, { sheet })}
    >
      <div className="stack">
        <label>
          <span className="dim">What to find out</span>
          <Choice
            label="What to find out"
            className="whole"
            value={kind}
            options={kinds.map((value) => ({ value, label: trialKindFor(value).label }))}
            onChange={(next) => setKind(next)}
          />
        </label>
        <p className="dim">
          The kind’s values are laid over the sheet’s height, band by band. Formulas may take them: <code>value</code>{" "}
          is the band’s own, <code>band(k)</code> that of any. The trial keeps a copy of the sheet.
        </p>
      </div>
    </Modal>
  );
}
