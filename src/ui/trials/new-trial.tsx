"use client";
import { useQuery } from "@tanstack/react-query";
import { Modal } from "antd";
import { api } from "../common/api";
import { Choice } from "../common/choice";
import { keys } from "../common/keys";
import { useState } from "react";
import { trialKindFor, TrialKindKey, trialKindKeys } from "@/core/trials";
import { takesSheet } from "@/core/trials/sheet-piece";
import { KeptSheet, sheetOf } from "../paths/kept-sheet";
import { useStartTrial } from "./start-trial";
import { PairFields } from "../common/pair-fields";
import { useBench, useBenchRows } from "../common/queries";

/** No sheet of one's own. */
const OF_THE_KIND = 0;

/** Kind, printer and spool in one step; the plan follows from them. */
export function NewTrial({ open, onClose }: { open: boolean; onClose(): void }) {
  const bench = useBench().data;
  const { start, starting } = useStartTrial();
  const [kind, setKind] = useState<TrialKindKey>("temperature");
  const [printerId, setPrinter] = useState<number | null>(null);
  const [spoolId, setSpool] = useState<number | null>(null);
  const printer = printerId ?? bench?.printerId ?? null;
  const spool = spoolId ?? bench?.spoolId ?? null;
  const sheets = useQuery({
    queryKey: keys.sheets,
    queryFn: () => api.get<KeptSheet[]>("/sheets"),
    enabled: open,
  }).data;
  const [sheetId, setSheetId] = useState(OF_THE_KIND);
  const pieces = takesSheet(kind) ? (sheets ?? []) : [];
  const sheet = pieces.find(({ id }) => id === sheetId);
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
      onOk={() =>
        printer !== null && spool !== null && void start(kind, printer, spool, { sheet: sheet && sheetOf(sheet) })
      }
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
        {pieces.length > 0 && (
          <label>
            <span className="dim">Piece</span>
            <Choice
              label="Piece"
              className="whole"
              value={sheet?.id ?? OF_THE_KIND}
              onChange={(next) => setSheetId(Number(next))}
              options={[
                { value: OF_THE_KIND, label: "the one made for it" },
                ...pieces.map(({ id, name }) => ({ value: id, label: name, group: "your sheets" })),
              ]}
            />
          </label>
        )}
        <PairFields printerId={printer} spoolId={spool} onPrinter={setPrinter} onSpool={setSpool} />
        <p className="dim">
          {explains}
          {needs && ` Settle first: ${needs}.`}
        </p>
      </div>
    </Modal>
  );
}
