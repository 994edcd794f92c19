"use client";
/** Reads the edited file back and says whether every layer commands what the plan wants. */
import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { SettingKey, settingFor } from "@/core/settings";
import { plainNumber } from "@/core/units";
import { api } from "../common/api";
import { Place } from "../common/findings";
import { keys } from "../common/keys";

interface Proof {
  /** How long the edited file takes. */
  seconds: number;
  mismatches: { key: SettingKey; layer: number; zMm: number; planned: number; commanded: number }[];
  /** What is not as it must be, in sentences. */
  wrong: string[];
  /** Those of them that a line of material shows; `edit` counts from 0. */
  differences: { where: string; message: string; edit: number }[];
  passed: string[];
}

/** How long the edited file takes, s, once it was read back; null before. */
export function useOutcomeSeconds(fileId: number, version: string | null): number | null {
  const proof = useQuery<Proof>({ queryKey: keys.fileProof(fileId, version), enabled: false });
  return version === null ? null : (proof.data?.seconds ?? null);
}

/** So many sentences about what is wrong are shown. */
const MOST_SHOWN = 5;

/** Files up to this size are proved by themselves after every change. */
const PROVE_BY_ITSELF_BYTES = 20_000_000;

export function ProofCard({
  fileId,
  sizeBytes,
  version,
  planned,
  lastEdit,
  onGo,
}: {
  fileId: number;
  sizeBytes: number;
  version: string | null;
  planned: boolean;
  /** The last edit that is on, from 0: its lines are those of the file that comes out. */
  lastEdit: number;
  /** Leads to a place of the edited file; null where there is none. */
  onGo(where: string): (() => void) | null;
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
  const { mismatches = [], wrong = [], differences = [], passed = [] } = proof.data ?? {};
  const places = new Map(differences.map((one) => [one.message, one]));
  const left = wrong.length - MOST_SHOWN;
  return (
    <>
      <NotAsPlanned mismatches={mismatches} />
      {wrong.slice(0, MOST_SHOWN).map((sentence) => {
        const place = places.get(sentence);
        return (
          <div key={sentence} className="finding warn">
            <span className="where">
              Proof
              {place && (
                <>
                  {" "}
                  · <Place where={place.where} onGo={place.edit === lastEdit ? onGo(place.where) : null} />
                </>
              )}
            </span>
            {sentence}
          </div>
        );
      })}
      {left > 0 && (
        <div className="finding warn">{left === 1 ? "One more like these." : `${left} more like these.`}</div>
      )}
      {passed.map((sentence) => (
        <div key={sentence} className="finding ok">
          {sentence}
        </div>
      ))}
    </>
  );
}

/** The first layer that does not command what the plan wants, and how many there are. */
function NotAsPlanned({ mismatches }: Pick<Proof, "mismatches">) {
  const [first] = mismatches;
  if (!first) return null;
  const { label, unit, decimals } = settingFor(first.key);
  return (
    <div className="finding warn">
      <span className="where">
        Proof · layer {first.layer + 1} at {plainNumber(first.zMm)} mm
      </span>
      {label} should be {plainNumber(first.planned, decimals)} {unit}, but the file commands{" "}
      {first.commanded < 0 ? "nothing" : `${plainNumber(first.commanded, decimals)} ${unit}`};{" "}
      {mismatches.length === 1 ? "one layer differs" : `${mismatches.length} layers differ`}.
    </div>
  );
}
