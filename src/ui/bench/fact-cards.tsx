"use client";
/** What is known of the printer and of the spool. */
import { PointedLink } from "../common/pointed-link";
import { spoolTitle } from "@/core/shelf/spool-title";
import { plainNumber } from "@/core/units";
import { SavedPrinter, SavedSpool } from "../common/api";
import { Facts } from "../common/facts";
import styles from "./bench-page.module.css";

export function PrinterCard({ printer }: { printer: SavedPrinter }) {
  const isRound = printer.bedShape === "round";
  const bed = isRound
    ? `Ø ${plainNumber(printer.bedWidthMm)} mm`
    : `${plainNumber(printer.bedWidthMm)} × ${plainNumber(printer.bedDepthMm)} mm`;
  return (
    <FactCard
      title={printer.name}
      path={`/shelf/printers/${printer.id}`}
      facts={[
        ["Bed", bed],
        ["Nozzle", `${plainNumber(printer.nozzleMm)} mm, up to ${printer.highestNozzleC} °C`],
        ["Heats and cools", `${plainNumber(printer.heaterRiseCPerS)} and ${plainNumber(printer.heaterFallCPerS)} °C/s`],
        ["Flow at most", `${plainNumber(printer.highestFlowMm3S)} mm³/s`],
      ]}
    />
  );
}

export function SpoolCard({ spool }: { spool: SavedSpool }) {
  return (
    <FactCard
      title={spoolTitle(spool)}
      path={`/shelf/spools/${spool.id}`}
      facts={[
        ["Material", `${spool.material}, ${plainNumber(spool.densityGCm3)} g/cm³`],
        ["Label", `${spool.labelMinC}–${spool.labelMaxC} °C`],
        ["Bed and fan", `${spool.bedC} °C and ${plainNumber(spool.fanPercent)} %`],
        ["First layers", sayFirstLayersOf(spool)],
        ["A layer takes at least", `${plainNumber(spool.smallestLayerSeconds)} s`],
      ]}
    />
  );
}

/** How the spool wants its first layers, in a few words. */
function sayFirstLayersOf(spool: SavedSpool): string {
  const { firstLayers, firstLayersNozzleHotterC: nozzle, firstLayersBedHotterC: bed, fanFromLayer } = spool;
  const hotter = [nozzle > 0 ? `nozzle +${plainNumber(nozzle)} °C` : "", bed > 0 ? `bed +${plainNumber(bed)} °C` : ""];
  const parts = [...hotter, `fan from layer ${fanFromLayer}`].filter(Boolean);
  return `${firstLayers > 1 && nozzle + bed > 0 ? `${firstLayers}: ` : ""}${parts.join(", ")}`;
}

interface FactCardProps {
  title: string;
  path: string;
  facts: [string, string][];
}

function FactCard({ title, path, facts }: FactCardProps) {
  return (
    <section className="card" aria-label={title}>
      <h2 className={styles.cardHead}>
        {title}
        <PointedLink href={path}>On the shelf</PointedLink>
      </h2>
      <Facts rows={facts} />
    </section>
  );
}
