"use client";
/** Where an edit acts, as blanks of its sentence. */
import type { Scope } from "@/core/edits/scope";
import { Choice } from "../../common/choice";
import { NumberField } from "../../common/number-field";
import type { LayerReport } from "@/core/report/report";

interface Props {
  scope: Scope;
  layers: readonly LayerReport[];
  onChange(scope: Scope): void;
}

type Way = "all" | "layers" | "heights";

const wayOf = ({ fromLayer, toLayer, fromMm, toMm }: Scope): Way => {
  if (fromMm !== undefined || toMm !== undefined) return "heights";
  return fromLayer !== undefined || toLayer !== undefined ? "layers" : "all";
};

/** The parts of an edit that say where; everything else of it stays. */
export function ScopeFields({ scope, layers, onChange }: Props) {
  const way = wayOf(scope);
  const topMm = layers[layers.length - 1].zMm;
  const change = (next: Way) => {
    if (next === "all") onChange({});
    else if (next === "layers") onChange({ fromLayer: 2, toLayer: layers.length, countsFrom: 1 });
    else onChange({ fromMm: Math.round(topMm / 2), toMm: Math.ceil(topMm) });
  };
  return (
    <>
      <Choice<Way>
        label="Where"
        small
        value={way}
        options={[
          { value: "all", label: "in the whole print" },
          { value: "layers", label: "from layer" },
          { value: "heights", label: "from height" },
        ]}
        onChange={change}
      />
      {way === "layers" && (
        <>
          <NumberField
            label="From layer, counted from 1"
            value={scope.fromLayer}
            unit=""
            low={1}
            high={layers.length}
            decimals={0}
            width={48}
            onChange={(fromLayer) => onChange({ ...scope, fromLayer, countsFrom: 1 })}
          />
          to
          <NumberField
            label="To layer, counted from 1"
            value={scope.toLayer}
            unit=""
            low={1}
            high={layers.length}
            decimals={0}
            width={48}
            onChange={(toLayer) => onChange({ ...scope, toLayer, countsFrom: 1 })}
          />
        </>
      )}
      {way === "heights" && (
        <>
          <NumberField
            label="From height"
            value={scope.fromMm}
            unit="mm"
            low={0}
            high={topMm}
            decimals={2}
            width={52}
            onChange={(fromMm) => onChange({ ...scope, fromMm })}
          />
          to
          <NumberField
            label="To height"
            value={scope.toMm}
            unit="mm"
            low={0}
            high={Math.ceil(topMm)}
            decimals={2}
            width={52}
            onChange={(toMm) => onChange({ ...scope, toMm })}
          />
        </>
      )}
    </>
  );
}
