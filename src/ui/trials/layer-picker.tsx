"use client";
import { ReactNode } from "react";
import { plainNumber } from "@/core/units";

interface Props {
  layer: number;
  tops: ArrayLike<number>;
  onLayer(layer: number): void;
  says?: string;
  children?: ReactNode;
}

/** Chooses a layer: one step a key, or dragged. Named in both millimetres and layer. */
export function LayerPicker({ layer, tops, onLayer, says = "Layer", children }: Props) {
  return (
    <p className="dim" style={{ marginBottom: 6, display: "flex", gap: 14, alignItems: "center", flexWrap: "wrap" }}>
      <label style={{ display: "flex", gap: 10, alignItems: "center" }}>
        <span className="mono" style={{ minWidth: 190 }}>
          {says} {layer + 1}, {plainNumber(tops[layer] ?? 0, 2)} mm
        </span>
        <input
          type="range"
          min={1}
          max={Math.max(1, tops.length)}
          value={layer + 1}
          onChange={(event) => onLayer(Number(event.target.value) - 1)}
          style={{ width: 260, accentColor: "var(--primary)" }}
        />
      </label>
      {children}
    </p>
  );
}
