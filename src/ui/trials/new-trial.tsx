"use client";
import { Modal } from "antd";
import { Choice } from "../common/choice";
import { useState } from "react";
import { trialKindFor, TrialKindKey, trialKindKeys } from "@/core/trials";
import { useStartTrial } from "./start-trial";
import { PairFields } from "../common/pair-fields";
import { useBench, useBenchRows } from "../common/queries";

/** Kind, printer and spool in one step; the plan follows from them. */
export function NewTrial({ open, onClose }: { open: boolean; onClose(): void }) {
  const bench = useBench().data;
  const { start, starting } = useStartTrial();
  const [kind, setKind] = useState<TrialKindKey>("temperature");
  const [printerId, setPrinter] = useState<number | null>(null);
  const [spoolId, setSpool] = useState<number | null>(null);
  const printer = printerId ?? bench?.printerId ?? null;
  const spool = spoolId ?? bench?.spoolId ?? null;
  const { explains } = trialKindFor(kind);
  const needs = useBenchRows(printer ?? 0, spool ?? 0).data?.find((row) => row.kind === kind)?.needs;
  return (
    <Modal
      open={open}
      title="New trial"
      okText="Make the trial"
      onCancel={onClose}
      confirmLoading={starting}
      okButtonProps={{ disabled: printer === null || spool === null, className: "go" }}
      onOk={() => printer !== null && spool !== null && void start(kind, printer, spool)}
    >
      <div className="stack">
        <label>
          <span className="dim">What to find out</span>
          <Choice
            label="What to find out"
            className="whole"
            value={kind}
            onChange={(next) => setKind(next)}
            options={trialKindKeys.map((key) => ({ value: key, label: trialKindFor(key).label }))}
          />
        </label>
        <PairFields printerId={printer} spoolId={spool} onPrinter={setPrinter} onSpool={setSpool} />
        <p className="dim">
          {explains}
          {needs && ` Settle first: ${needs}.`}
        </p>
      </div>
    </Modal>
  );
}
