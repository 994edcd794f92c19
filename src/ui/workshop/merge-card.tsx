"use client";
/** Another file of the same layers is offered as the second material of one print. */
import { Button } from "antd";
import { useQuery } from "@tanstack/react-query";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { api } from "../common/api";
import { Choice } from "../common/choice";
import { keys } from "../common/keys";
import { NumberField } from "../common/number-field";
import { useAct } from "../common/use-act";
import { MERGE_ID } from "./merging";
import type { FilePageState } from "./use-file-page";
import type { ListedFile } from "./workshop-page";

/** Files whose tops lie so near are likely of one grid, mm; whether they are is looked at layer by layer when they are merged. */
const NEAR_MM = 0.05;
const TOOLS = [0, 1] as const;

export function MergeCard({ page }: { page: FilePageState }) {
  const { file, report, printer, topMm } = page;
  const all = useQuery({ queryKey: keys.files, queryFn: () => api.get<ListedFile[]>("/files") });
  const [chosen, setChosen] = useState<number | null>(null);
  const [isSwapped, setSwapped] = useState(false);
  const [idleBelowC, setIdle] = useState(30);
  const { busy, act } = useAct();
  const router = useRouter();
  const perLayerMm = topMm / report.layers.length;
  const fits = (all.data ?? []).filter(({ id, printerId, summary }) => {
    if (id === file.id || !summary || summary.layers === 0) return false;
    if (printerId !== null && file.printerId !== null && printerId !== file.printerId) return false;
    return Math.abs(summary.topMm / summary.layers - perLayerMm) < NEAR_MM / 10;
  });
  if (!printer) return null;
  const merge = () =>
    act(async () => {
      const tools = isSwapped ? [...TOOLS].reverse() : TOOLS;
      const { id } = await api.post<{ id: number }>(`/files/${file.id}/merge`, { with: chosen, tools, idleBelowC });
      router.push(`/workshop/${id}`);
    });
  return (
    <section className="card" aria-label="Two materials" id={MERGE_ID} tabIndex={-1}>
      <h2>Two materials</h2>
      <p className="dim">
        Another file of the same layers becomes one print with this one, each on a tool of its own.
        {printer.tools < 2 && ` ${printer.name} has one tool: choose above which printer this file is for.`}
        {printer.tools > 1 &&
          fits.length === 0 &&
          " Open the other one, sliced with the same layers, and it is offered here."}
      </p>
      {printer.tools > 1 && fits.length > 0 && (
        <div className="stack">
          <Choice
            label="The other file"
            value={chosen}
            hint="Choose the other file …"
            options={fits.map(({ id, name }) => ({ value: id, label: name }))}
            onChange={(id) => setChosen(Number(id))}
          />
          {chosen !== null && (
            <>
              <Choice
                label="Which tool lays which file"
                value={isSwapped ? 1 : 0}
                options={[
                  { value: 0, label: "This one on tool 0, the other on 1" },
                  { value: 1, label: "This one on tool 1, the other on 0" },
                ]}
                onChange={(which) => setSwapped(which === 1)}
              />
              <span className="inline-line">
                The idle tool waits
                <NumberField
                  label="How much cooler the idle tool waits"
                  value={idleBelowC}
                  unit="°C"
                  low={0}
                  high={150}
                  decimals={0}
                  width={40}
                  onChange={setIdle}
                />
                cooler
              </span>
              <Button block loading={busy} onClick={() => void merge()}>
                Make one print of them
              </Button>
            </>
          )}
        </div>
      )}
    </section>
  );
}
