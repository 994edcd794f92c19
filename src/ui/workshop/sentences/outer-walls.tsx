"use client";
import { useQuery } from "@tanstack/react-query";
import type { Cut } from "@/core/laid/cut";
import { sayDuration } from "@/core/units";
import { api } from "../../common/api";
import { Choice } from "../../common/choice";
import { keys } from "../../common/keys";
import { NumberField } from "../../common/number-field";
import type { Sentence, SentenceProps } from "./sentence";
import styles from "./sentence.module.css";

type OuterWalls = Extract<Parameters<(typeof outerWallsSentence)["short"]>[0], { kind: "outer-walls" }>;

export const outerWallsSentence: Sentence<"outer-walls"> = {
  begin: "Finer outer walls",
  words: "outer wall finer smooth surface layer height thin inside thick passes",
  short: ({ passes, insideEvery }) => (passes ? `walls in ${passes}` : `inside × ${insideEvery}`),
  fresh: () => ({ kind: "outer-walls", passes: 2 }),
  blanks: (props) => <Blanks {...props} />,
};

function Blanks(props: SentenceProps<OuterWalls>) {
  const { edit, onChange } = props;
  const isPasses = edit.passes !== undefined;
  const number = edit.passes ?? edit.insideEvery ?? 2;
  const put = (passes: boolean, count: number) => {
    const { kind, off } = edit;
    onChange({ kind, ...(passes ? { passes: count } : { insideEvery: count }), ...(off ? { off } : {}) });
  };
  return (
    <>
      <Choice
        label="How outer walls become finer"
        small
        value={isPasses ? "passes" : "inside"}
        options={[
          { value: "passes", label: "Each outer wall is laid in" },
          { value: "inside", label: "The inside is laid as one for every" },
        ]}
        onChange={(way) => put(way === "passes", number)}
      />
      <NumberField
        label={isPasses ? "Passes" : "Layers"}
        value={number}
        unit={isPasses ? "passes" : "layers"}
        low={2}
        high={8}
        decimals={0}
        width={36}
        onChange={(count) => put(isPasses, count)}
      />
      {isPasses
        ? "of their own height, before the inside of their layer."
        : "while the outer walls stay as fine as they are."}
      {!edit.off && <Cuts {...props} />}
    </>
  );
}

/** A cut through the wall before and after, and what it takes. */
function Cuts({ fileId, report, version }: SentenceProps<OuterWalls>) {
  const { layers } = report;
  const middle = layers[Math.min(layers.length - 1, Math.floor(layers.length / 2))];
  const atMm = Math.max(0, Math.round(middle.zMm * 10) / 10 - 0.5);
  return (
    <div className={styles.cuts}>
      <CutPicture label="Before" fileId={fileId} atMm={atMm} version={0} />
      <CutPicture label="After" fileId={fileId} atMm={atMm} version={version} />
    </div>
  );
}

const WIDE_MM = 4;
const HIGH_MM = 2;
const PX_PER_MM = 52;

function CutPicture({
  label,
  fileId,
  atMm,
  version,
}: {
  label: string;
  fileId: number;
  atMm: number;
  version: number;
}) {
  const isEdited = version > 0;
  const cut = useQuery({
    queryKey: keys.fileCut(fileId, atMm, version),
    queryFn: () =>
      api.get<Cut & { seconds: number }>(`/files/${fileId}/cut?atMm=${atMm}${isEdited ? "&edited=1" : ""}`),
    staleTime: Infinity,
    retry: false,
  });
  const beads = cut.data?.beads ?? [];
  const y = (mm: number) => (HIGH_MM - (mm - atMm)) * PX_PER_MM;
  return (
    <figure className={styles.cut}>
      <svg
        width={WIDE_MM * PX_PER_MM}
        height={HIGH_MM * PX_PER_MM}
        role="img"
        aria-label={`${label}: a cut through the wall, ${beads.filter(({ isWall }) => isWall).length} beads of it`}
      >
        {beads.map(({ acrossMm, zMm, widthMm, heightMm, isWall }, i) => (
          <rect
            key={i}
            x={(acrossMm - widthMm / 2 - 0.5) * PX_PER_MM}
            y={y(zMm)}
            width={widthMm * PX_PER_MM}
            height={heightMm * PX_PER_MM}
            rx={(heightMm / 2) * PX_PER_MM}
            fill={isWall ? "var(--primary)" : "var(--base)"}
            stroke="var(--surface)"
            strokeWidth={1}
          />
        ))}
      </svg>
      <figcaption>
        {label}
        {cut.data ? `: ${sayDuration(cut.data.seconds)}` : " …"}
      </figcaption>
    </figure>
  );
}
