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
        <Span
          keys={["fromLayer", "toLayer"]}
          what="layer, counted from 1"
          unit=""
          low={1}
          high={layers.length}
          scope={scope}
          onChange={(next) => onChange({ ...next, countsFrom: 1 })}
        />
      )}
      {way === "heights" && (
        <Span
          keys={["fromMm", "toMm"]}
          what="height"
          unit="mm"
          low={0}
          high={Math.ceil(topMm)}
          scope={scope}
          onChange={onChange}
        />
      )}
    </>
  );
}

interface SpanProps {
  keys: ["fromLayer", "toLayer"] | ["fromMm", "toMm"];
  what: string;
  unit: string;
  low: number;
  high: number;
  scope: Scope;
  onChange(scope: Scope): void;
}

/** Two blanks: from where, and to where. */
function Span({ keys: [from, to], what, unit, low, high, scope, onChange }: SpanProps) {
  const blank = (key: typeof from | typeof to, label: string) => (
    <NumberField
      label={label}
      value={scope[key]}
      unit={unit}
      low={low}
      high={high}
      decimals={unit === "mm" ? 2 : 0}
      width={52}
      onChange={(value) => onChange({ ...scope, [key]: value })}
    />
  );
  return (
    <>
      {blank(from, `From ${what}`)} to {blank(to, `To ${what}`)}
    </>
  );
}
