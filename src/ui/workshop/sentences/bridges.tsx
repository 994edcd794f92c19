"use client";
import { useQuery } from "@tanstack/react-query";
import { useId } from "react";
import type { OverAir } from "@/core/edits/kinds/bridges";
import { bridgesOfTrial } from "@/core/trials/bridges-of-trial";
import type { Trial } from "@/core/trials/trial";
import { plainNumber } from "@/core/units";
import type { SeenBridge } from "@/core/laid/over-air";
import { api } from "../../common/api";
import { Choice } from "../../common/choice";
import { keys } from "../../common/keys";
import { NumberField } from "../../common/number-field";
import { useTrials } from "../../common/queries";
import { useAct } from "../../common/use-act";
import type { Sentence, SentenceProps } from "./sentence";
import styles from "./sentence.module.css";

const ordinals = ["First", "Second", "Third", "Fourth", "Fifth"];
/** So many are listed at once. */
const MOST_LISTED = 60;
/** Slow and lean, lean, as usual; the fan at its most. Common practice, no source. */
const usual: OverAir[] = [
  { feedPercent: 50, flowPercent: 90, fan: 100 },
  { feedPercent: 75, flowPercent: 95, fan: 100 },
  { feedPercent: 100, flowPercent: 100 },
];

type Bridges = Extract<Parameters<(typeof bridgesSentence)["short"]>[0], { kind: "bridges" }>;

export const bridgesSentence: Sentence<"bridges"> = {
  begin: "Bridges",
  words: "bridge strand over air span overhang cooler sag",
  short: ({ cooler }) => `bridges −${cooler} °C`,
  fresh: () => ({ kind: "bridges", cooler: 15, layersBefore: "auto", layers: usual, only: "strands" }),
  blanks: (props) => <Blanks {...props} />,
};

function Blanks({ edit, printer, fileId, index, version, onChange }: SentenceProps<Bridges>) {
  return (
    <>
      For what is laid over air the nozzle is
      <NumberField
        label="Cooler by"
        value={edit.cooler}
        unit="°C"
        low={0}
        high={100}
        decimals={0}
        width={44}
        onChange={(cooler) => onChange({ ...edit, cooler })}
      />
      cooler,
      <Choice
        label="Told so many layers before"
        small
        value={edit.layersBefore}
        options={[
          { value: "auto" as const, label: "told as early as it takes to cool" },
          ...[0, 1, 2, 3, 4, 6, 8, 10].map((value) => ({ value, label: `told ${value} layers before` })),
        ]}
        onChange={(layersBefore) => onChange({ ...edit, layersBefore })}
      />
      and changed are
      <Choice
        label="What is changed"
        small
        value={edit.only}
        options={[
          { value: "strands" as const, label: "the strands alone" },
          { value: "layer" as const, label: "the whole layer" },
        ]}
        onChange={(only) => onChange({ ...edit, only })}
      />
      <LayersOverAir edit={edit} onChange={onChange} />
      {printer && (
        <AsInTrial edit={edit} printer={printer} fileId={fileId} index={index} version={version} onChange={onChange} />
      )}
      <Found fileId={fileId} index={index} version={version} edit={edit} onChange={onChange} />
    </>
  );
}

function LayersOverAir({ edit, onChange }: Pick<SentenceProps<Bridges>, "edit" | "onChange">) {
  const put = (at: number, change: Partial<OverAir>) =>
    onChange({ ...edit, layers: edit.layers.map((one, i) => (i === at ? { ...one, ...change } : one)) });
  return (
    <table className={`grid-table ${styles.table}`}>
      <thead>
        <tr>
          <th>Over air</th>
          <th>Speed</th>
          <th>Flow</th>
          <th>Fan</th>
        </tr>
      </thead>
      <tbody>
        {edit.layers.map(({ feedPercent, flowPercent, fan }, i) => (
          <tr key={i}>
            <th scope="row">{ordinals[i]} layer</th>
            <td>
              <NumberField
                label={`${ordinals[i]} layer, speed`}
                value={feedPercent}
                unit="%"
                low={10}
                high={500}
                decimals={0}
                width={48}
                onChange={(value) => put(i, { feedPercent: value })}
              />
            </td>
            <td>
              <NumberField
                label={`${ordinals[i]} layer, flow`}
                value={flowPercent}
                unit="%"
                low={10}
                high={300}
                decimals={0}
                width={48}
                onChange={(value) => put(i, { flowPercent: value })}
              />
            </td>
            <td>
              <NumberField
                label={`${ordinals[i]} layer, fan`}
                value={fan}
                unit="%"
                low={0}
                high={100}
                decimals={0}
                width={48}
                hint="as it is"
                onChange={(value) => put(i, { fan: value })}
                onEmpty={() => put(i, { fan: undefined })}
              />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const useBridges = (fileId: number, index: number, version: number) =>
  useQuery({
    queryKey: keys.fileBridges(fileId, index, index === 0 ? 0 : version),
    queryFn: () => api.get<SeenBridge[]>(`/files/${fileId}/bridges?edit=${index}`),
    staleTime: Infinity,
    retry: false,
  });

/** The layers over air as a bridging trial has them. */
function AsInTrial({
  edit,
  printer,
  fileId,
  index,
  version,
  onChange,
}: Omit<SentenceProps<Bridges>, "report" | "fileName">) {
  const bridges = useBridges(fileId, index, version).data ?? [];
  const trials = (useTrials().data ?? []).filter(({ kind }) => kind === "bridging");
  const { act } = useAct();
  if (!printer || trials.length === 0 || bridges.length === 0) return null;
  const take = (id: number) =>
    act(async () => {
      const trial = await api.get<Trial>(`/trials/${id}`);
      onChange({ ...edit, ...bridgesOfTrial(trial, printer, bridges[0].feedMmS) });
    });
  return (
    <Choice
      label="Lay it as a bridging trial does"
      small
      value={null}
      hint="as in the trial …"
      options={trials.map(({ id, name }) => ({ value: id, label: name }))}
      onChange={(id) => void take(id)}
    />
  );
}

/** The bridges of the file as this edit finds it, each with a tick. */
function Found({
  edit,
  fileId,
  index,
  version,
  onChange,
}: Omit<SentenceProps<Bridges>, "printer" | "report" | "fileName">) {
  const id = useId();
  const bridges = useBridges(fileId, index, version);
  if (bridges.error) return <p className="field-error">{bridges.error.message}</p>;
  if (!bridges.data) return <p className="dim">Looking for strands over air …</p>;
  const skip = new Set(edit.skip);
  const setSkip = (next: Set<number>) =>
    onChange({ ...edit, skip: next.size > 0 ? [...next].sort((a, b) => a - b) : undefined });
  return (
    <fieldset className={styles.found}>
      <legend>
        {bridges.data.length === 0
          ? "Nothing in this file bridges air."
          : `${bridges.data.length === 1 ? "One bridge" : `${bridges.data.length} bridges`} found by what is below`}
      </legend>
      {bridges.data.slice(0, MOST_LISTED).map(({ line, layer, heightMm, strands, spanMm, lengthMm, loose }) => (
        <label key={line} htmlFor={`${id}${line}`}>
          <input
            id={`${id}${line}`}
            type="checkbox"
            checked={!skip.has(line)}
            onChange={({ target }) => {
              const next = new Set(skip);
              if (target.checked) next.delete(line);
              else next.add(line);
              setSkip(next);
            }}
          />{" "}
          <span className="mono">{plainNumber(heightMm, 2)} mm</span>, layer {layer + 1}: {strands}{" "}
          {strands === 1 ? "strand" : "strands"} over <span className="mono">{plainNumber(spanMm, 1)} mm</span>, in all{" "}
          {plainNumber(lengthMm, 0)} mm{loose > 0 && `, ${loose} of them held at one end at most`}
        </label>
      ))}
      {bridges.data.length > MOST_LISTED && (
        <p className="dim">… and {bridges.data.length - MOST_LISTED} more, all of them chosen.</p>
      )}
    </fieldset>
  );
}
