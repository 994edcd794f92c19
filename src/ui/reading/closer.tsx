"use client";
/** The band that is asked about, larger, and if wanted another one beside it. */
import { useLayoutEffect, useRef, useState } from "react";
import type { Unit } from "@/core/trials/run";
import { Choice } from "../common/choice";
import { BandStrip } from "./laid-picture";
import type { Picture } from "./pictures";
import styles from "./reading.module.css";

interface Props {
  picture: Picture;
  band: Unit;
  bands: Unit[];
  topMm: number;
  beside: number | null;
  onBeside(band: number | null): void;
}

const STRIP_PX = 120;

export function Closer({ picture, band, bands, topMm, beside, onBeside }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [widthPx, setWidth] = useState(600);
  useLayoutEffect(() => {
    const element = box.current!;
    const observer = new ResizeObserver(() => setWidth(element.clientWidth));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const other = bands.find(({ band: number }) => number === beside);
  const shown = [band, ...(other && other !== band ? [other] : [])].sort((a, b) => b.fromMm - a.fromMm);
  return (
    <section className={styles.closer} aria-label="The band, larger" ref={box}>
      {shown.map((one) => (
        <BandStrip
          key={one.band}
          picture={picture}
          label={`${one.band}: ${one.label}`}
          fromMm={one.fromMm}
          toMm={one.toMm}
          topMm={topMm}
          widthPx={widthPx}
          mostPx={shown.length > 1 ? STRIP_PX * 0.8 : STRIP_PX}
        />
      ))}
      <div className={styles.beside}>
        <Choice<number>
          label="Hold another band beside it"
          hint="no other beside it"
          small
          value={beside}
          options={bands
            .filter((one) => one !== band && one.counts)
            .map((one) => ({ value: one.band, label: `beside band ${one.band}, ${one.label}` }))}
          onChange={onBeside}
          onClear={() => onBeside(null)}
        />
      </div>
    </section>
  );
}
