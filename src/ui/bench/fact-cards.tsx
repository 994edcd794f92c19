"use client";
/** What is known of the printer, of the spool, and of what was measured. */
import Link from "next/link";
import { resultFigures } from "@/core/measure/result";
import { tuneFor, tuneKeys } from "@/core/measure";
import { spoolTitle } from "@/core/shelf/spool-title";
import { plainNumber } from "@/core/units";
import { SavedPrinter, SavedSpool } from "../common/api";
import { Facts } from "../common/facts";
import { useMeasurements } from "../printer/kept-firmware";
import styles from "./bench-page.module.css";

/** The last result of each measured tune; the steps come before any print. */
export function MeasuredCard({ printer }: { printer: SavedPrinter }) {
  const measured = useMeasurements(printer.id).data ?? [];
  const facts = tuneKeys.flatMap((key): [string, string][] => {
    const last = measured.find(({ tune }) => tune === key);
    if (!last) return [];
    const figures = resultFigures(last.result);
    // One figure stands for itself; of several, each says which it is.
    const said =
      figures.length === 1 ? figures[0].figure : figures.map(({ name, figure }) => `${name} ${figure}`).join(", ");
    return [[tuneFor(key).title, said || "as it should be"]];
  });
  const { title } = tuneFor(tuneKeys[0]);
  return (
    <FactCard
      title="Measured"
      path="/measure"
      linkText="Measure"
      facts={facts.length > 0 ? facts.slice(0, 5) : [[title, "not yet: the first thing to do"]]}
    />
  );
}

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
  linkText?: string;
  facts: [string, string][];
}

function FactCard({ title, path, linkText = "On the shelf", facts }: FactCardProps) {
  return (
    <section className="card" aria-label={title}>
      <h2 className={styles.cardHead}>
        {title}
        <Link href={path}>{linkText}</Link>
      </h2>
      <Facts rows={facts} />
    </section>
  );
}
