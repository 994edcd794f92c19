"use client";
/** Where an edit acts, as blanks of its sentence. */
import type { Scope } from "@/core/edits/scope";
import { Choice } from "../../common/choice";
import { NumberField } from "../../common/number-field";
import type { ProgramReport } from "@/core/report/report";

interface Props {
  scope: Scope;
  report: Pick<ProgramReport, "layers" | "markers">;
  onChange(scope: Scope): void;
}

type Way = "all" | "layers" | "heights";

const wayOf = ({ fromLayer, toLayer, fromMm, toMm }: Scope): Way => {
  if (fromMm !== undefined || toMm !== undefined) return "heights";
  return fromLayer !== undefined || toLayer !== undefined ? "layers" : "all";
};

/** The same layers, with the numbers they have when they are counted from 0 or from 1. */
function countedFrom(scope: Scope, countsFrom: 0 | 1): Scope {
  const by = countsFrom - (scope.countsFrom ?? 1);
  const shifted = (layer: number | undefined) => (layer === undefined ? undefined : layer + by);
  return { ...scope, fromLayer: shifted(scope.fromLayer), toLayer: shifted(scope.toLayer), countsFrom };
}

/** The parts of an edit that say where; everything else of it stays. */
export function ScopeFields({ scope, report: { layers, markers }, onChange }: Props) {
  const way = wayOf(scope);
  const { countsFrom = 1 } = scope;
  const topMm = layers[layers.length - 1].zMm;
  const change = (next: Way) => {
    if (next === "all") onChange({});
    else if (next === "layers") {
      // As the file's own comments count.
      const from = markers?.countsFrom === 0 ? 0 : 1;
      onChange({ fromLayer: 1 + from, toLayer: layers.length - 1 + from, countsFrom: from });
    } else onChange({ fromMm: Math.round(topMm / 2), toMm: Math.ceil(topMm) });
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
          <Span
            keys={["fromLayer", "toLayer"]}
            what={`layer, counted from ${countsFrom}`}
            unit=""
            low={countsFrom}
            high={layers.length - 1 + countsFrom}
            scope={scope}
            onChange={(next) => onChange({ ...next, countsFrom })}
          />
          <Choice<0 | 1>
            label="Layers count from"
            small
            value={countsFrom}
            options={[
              { value: 1, label: "counted from 1" },
              { value: 0, label: "counted from 0" },
            ]}
            onChange={(from) => onChange(countedFrom(scope, from))}
          />
        </>
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
