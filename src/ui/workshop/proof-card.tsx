"use client";
/** Reads the edited file back and says whether every layer commands what the plan wants. */
import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { SettingKey, settingFor } from "@/core/settings";
import { plainNumber } from "@/core/units";
import { api } from "../common/api";
import { keys } from "../common/keys";

interface Proof {
  mismatches: { key: SettingKey; layer: number; zMm: number; planned: number; commanded: number }[];
  /** What is not as it must be, in sentences. */
  wrong: string[];
  passed: string[];
}

/** Files up to this size are proved by themselves after every change. */
const PROVE_BY_ITSELF_BYTES = 20_000_000;

export function ProofCard({
  fileId,
  sizeBytes,
  version,
  planned,
}: {
  fileId: number;
  sizeBytes: number;
  version: string | null;
  planned: boolean;
}) {
  const [asked, setAsked] = useState<string | null>(null);
  const byItself = sizeBytes <= PROVE_BY_ITSELF_BYTES;
  const proof = useQuery({
    queryKey: keys.fileProof(fileId, version),
    queryFn: () => api.get<Proof>(`/files/${fileId}/proof`),
    enabled: planned && version !== null && (byItself || asked === version),
    staleTime: Infinity,
    retry: false,
  });
  if (!planned) return null;
  if (!byItself && asked !== version) {
    return (
      <Button size="small" className="above" onClick={() => setAsked(version)}>
        Read it back and compare
      </Button>
    );
  }
  if (proof.isLoading) return <div className="finding note">Reading the file back …</div>;
  if (proof.error) return <div className="finding stop">The proof could not be made.</div>;
  const [first] = proof.data?.mismatches ?? [];
  if (first) {
    const { label, unit, decimals } = settingFor(first.key);
    return (
      <div className="finding warn">
        <span className="where">
          Proof · layer {first.layer + 1} at {plainNumber(first.zMm)} mm
        </span>
        {label} should be {plainNumber(first.planned, decimals)} {unit}, but the file commands{" "}
        {first.commanded < 0 ? "nothing" : `${plainNumber(first.commanded, decimals)} ${unit}`};{" "}
        {proof.data?.mismatches.length} layers differ.
      </div>
    );
  }
  return (
    <>
      {proof.data?.wrong.map((sentence) => (
        <div key={sentence} className="finding warn">
          <span className="where">Proof</span>
          {sentence}
        </div>
      ))}
      {proof.data?.passed.map((sentence) => (
        <div key={sentence} className="finding ok">
          {sentence}
        </div>
      ))}
    </>
  );
}
