"use client";
/** A copy of a trial, for another printer or spool if wanted; its values are checked anew there. */
import { useQueryClient } from "@tanstack/react-query";
import { Modal } from "antd";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { Trial } from "@/core/trials/trial";
import { api } from "../common/api";
import { PairFields } from "../common/pair-fields";

import { keys } from "../common/keys";
import { useTell } from "../common/talk";

export function CopyTrial({ trial, onClose }: { trial: Pick<Trial, "id" | "printerId" | "spoolId">; onClose(): void }) {
  const [printerId, setPrinter] = useState(trial.printerId);
  const [spoolId, setSpool] = useState(trial.spoolId);
  const [copying, setCopying] = useState(false);
  const client = useQueryClient();
  const router = useRouter();
  const tell = useTell();
  const copy = async () => {
    setCopying(true);
    try {
      const { id } = await api.post<Trial>(`/trials/${trial.id}/copy`, { printerId, spoolId });
      await client.invalidateQueries({ queryKey: keys.trials });
      router.push(`/trials/${id}`);
    } catch (error) {
      tell.error(error);
      setCopying(false);
    }
  };
  return (
    <Modal
      open
      title="Copy the trial"
      okText="Make the copy"
      confirmLoading={copying}
      onCancel={onClose}
      onOk={() => void copy()}
    >
      <div className="stack">
        <p className="dim">
          The plan is copied unchanged. The trial’s page points out what the other printer or spool can\'t do.
        </p>
        <PairFields printerId={printerId} spoolId={spoolId} onPrinter={setPrinter} onSpool={setSpool} />
      </div>
    </Modal>
  );
}
