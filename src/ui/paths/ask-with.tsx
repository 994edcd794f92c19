"use client";
/** A trial whose piece is a sheet: what to find out with it. */
import { useQueryClient } from "@tanstack/react-query";
import { Modal } from "antd";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { Sheet } from "@/core/sheets/sheet";
import { trialKindFor, TrialKindKey, trialKindKeys } from "@/core/trials";
import { takesSheet } from "@/core/trials/sheet-piece";
import type { Trial } from "@/core/trials/trial";
import { api } from "../common/api";
import { Choice } from "../common/choice";
import { keys } from "../common/keys";
import { useAct } from "../common/use-act";

const kinds = trialKindKeys.filter((kind) => takesSheet(kind));

interface Props {
  sheet: Sheet;
  printerId: number;
  spoolId: number;
  onClose(): void;
}

export function AskWith({ sheet, printerId, spoolId, onClose }: Props) {
  const [kind, setKind] = useState<TrialKindKey>("temperature");
  const { busy, act } = useAct();
  const router = useRouter();
  const client = useQueryClient();
  const make = () =>
    act(async () => {
      const { id } = await api.post<Trial>("/trials", { kind, printerId, spoolId, sheet });
      await client.invalidateQueries({ queryKey: keys.trials });
      router.push(`/trials/${id}`);
    });
  return (
    <Modal
      open
      title={`Ask something with “${sheet.name}”`}
      okText="Make the trial"
      okButtonProps={{ className: "go" }}
      confirmLoading={busy}
      onCancel={onClose}
      onOk={() => void make()}
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
          is the band’s own, <code>band(k)</code> that of any. The trial keeps the sheet as it is now.
        </p>
      </div>
    </Modal>
  );
}
