"use client";
import { useQueryClient } from "@tanstack/react-query";
import { Modal, Select } from "antd";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { trialKindFor, TrialKindKey, trialKindKeys } from "@/core/trials";
import type { Trial } from "@/core/trials/trial";
import { api } from "../common/api";
import { PairFields } from "../common/pair-fields";
import { useBench, useTell } from "../common/queries";
import { keys } from "../common/keys";

/** Makes a trial with its kind's first round and goes to it. */
export function useStartTrial() {
  const router = useRouter();
  const client = useQueryClient();
  const tell = useTell();
  const [starting, setStarting] = useState(false);
  const start = async (kind: TrialKindKey, printerId: number, spoolId: number) => {
    setStarting(true);
    try {
      const { id } = await api.post<Trial>("/trials", { kind, printerId, spoolId });
      await client.invalidateQueries({ queryKey: keys.trials });
      router.push(`/trials/${id}`);
    } catch (error) {
      tell.error(error);
      setStarting(false);
    }
  };
  return { start, starting };
}

/** Kind, printer and spool in one step; the plan follows from them. */
export function NewTrial({ open, onClose }: { open: boolean; onClose(): void }) {
  const bench = useBench().data;
  const { start, starting } = useStartTrial();
  const [kind, setKind] = useState<TrialKindKey>("temperature");
  const [printerId, setPrinter] = useState<number | null>(null);
  const [spoolId, setSpool] = useState<number | null>(null);
  const printer = printerId ?? bench?.printerId ?? null;
  const spool = spoolId ?? bench?.spoolId ?? null;
  const { explains, settledFirst } = trialKindFor(kind);
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
      <div style={{ display: "grid", gap: 12, margin: "12px 0" }}>
        <label>
          <span className="dim">What to find out</span>
          <Select
            aria-label="What to find out"
            style={{ width: "100%" }}
            listHeight={400}
            value={kind}
            onChange={setKind}
            options={trialKindKeys.map((key) => ({ value: key, label: trialKindFor(key).label }))}
          />
        </label>
        <PairFields printerId={printer} spoolId={spool} onPrinter={setPrinter} onSpool={setSpool} />
        <p className="dim">
          {explains}
          {settledFirst && ` Settle first: ${settledFirst}.`}
        </p>
      </div>
    </Modal>
  );
}
