"use client";
import { ReactNode } from "react";
import { plainNumber } from "@/core/units";
import styles from "./layer-picker.module.css";

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
    <p className="dim line below">
      <label className="line">
        <span className="mono picker">
          {says} {layer + 1}, {plainNumber(tops[layer] ?? 0, 2)} mm
        </span>
        <input
          type="range"
          min={1}
          max={Math.max(1, tops.length)}
          value={layer + 1}
          onChange={(event) => onLayer(Number(event.target.value) - 1)}
          className={styles.slider}
        />
      </label>
      {children}
    </p>
  );
}
