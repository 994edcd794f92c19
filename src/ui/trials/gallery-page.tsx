"use client";
/** A new trial is chosen by its piece: one card a question, all to one scale on one ground line, the next of the road first. */
import { Button } from "antd";
import { useSearchParams } from "next/navigation";
import { KeyboardEvent, useState } from "react";
import type { RoadStep } from "@/core/road/road";
import { trialKindFor, TrialKindKey, trialKindKeys } from "@/core/trials";
import type { FirstPiece } from "@/core/trials/effort";
import { spoolTitle } from "@/core/shelf/spool-title";
import { PointedLink } from "../common/pointed-link";
import { Loading } from "../common/loading";
import { useBench, useRoad, useFirstPieces, usePrinters, useSpools } from "../common/queries";
import { drawnHeightMm } from "../common/piece-picture";
import { WayIn } from "../common/way-in";
import { NewTrial } from "./dialogs-later";
import { GalleryCard } from "./gallery-card";
import styles from "./gallery.module.css";
import { useStartTrial } from "./start-trial";

/** The widest and the tallest piece may take so much room, px, and a millimetre so much. */
const MOST = { widePx: 250, tallPx: 190, pxPerMm: 2.6 };
/** Height that is kept free for pieces that are still being built, px. */
const USUAL_TALL_PX = 84;

export function GalleryPage() {
  const { printerId, spoolId } = useAskedPair();
  const [printers, spools] = [usePrinters().data, useSpools().data];
  const printer = printers?.find(({ id }) => id === printerId);
  const spool = spools?.find(({ id }) => id === spoolId);
  const pieces = useFirstPieces(printerId ?? 0, spoolId ?? 0);
  const road = useRoad(printerId ?? 0, spoolId ?? 0).data ?? [];
  const { start, starting } = useStartTrial();
  const [choosing, setChoosing] = useState(false);
  if (printerId === null || spoolId === null) return <WayIn />;
  if (!printers || !spools || printerId === 0 || spoolId === 0) return <Loading />;
  if (!printer || !spool) return <NotOnShelf what={printer ? "spool" : "printer"} />;
  const toMeasure = road.find(({ isNext, what }) => isNext && what === "tune");
  const pxPerMm = scaleOf(pieces.data ?? []);
  const tallPx = Math.max(
    USUAL_TALL_PX,
    ...(pieces.data ?? []).map(({ thumbnail }) => drawnHeightMm(thumbnail) * pxPerMm),
  );
  return (
    <>
      <div className="page-head">
        <div>
          <h1>What do you want to find out?</h1>
          <p className="sub">
            Each piece as {printer.name} would print it in {spoolTitle(spool)}, all to one scale, in the order of work.{" "}
            {toMeasure && (
              <>
                Best measured first: <PointedLink href={`/measure/${toMeasure.key}`}>{toMeasure.label}</PointedLink>.
              </>
            )}
          </p>
        </div>
        <Button size="large" onClick={() => setChoosing(true)}>
          Other printer, spool or piece …
        </Button>
      </div>
      {pieces.error && (
        <div className="finding stop" role="alert">
          {pieces.error.message} <Button onClick={() => void pieces.refetch()}>Try again</Button>
        </div>
      )}
      <ol className={styles.gallery} aria-label="Questions" aria-busy={pieces.isLoading} onKeyDown={walk}>
        {inOrder(road).map((kind) => (
          <GalleryCard
            key={kind}
            kind={trialKindFor(kind)}
            step={road.find(({ key }) => key === kind)}
            piece={pieces.data?.find((piece) => piece.kind === kind)}
            pxPerMm={pxPerMm}
            tallPx={tallPx}
            isBusy={starting}
            onAsk={() => void start(kind, printerId, spoolId)}
          />
        ))}
      </ol>
      {choosing && <NewTrial open onClose={() => setChoosing(false)} />}
    </>
  );
}

function NotOnShelf({ what }: { what: string }) {
  return (
    <div className="empty">
      <h1>This {what} is not on the shelf</h1>
      <p>
        It may have been removed. <PointedLink href="/trials/new">Ask with the pair on the bench</PointedLink>.
      </p>
    </div>
  );
}

/** The pair in the address, else the one on the bench: 0 while that is not known, null where it is empty. */
function useAskedPair() {
  const asked = useSearchParams();
  const bench = useBench().data ?? { printerId: 0, spoolId: 0 };
  return {
    printerId: Number(asked.get("printerId")) || bench.printerId,
    spoolId: Number(asked.get("spoolId")) || bench.spoolId,
  };
}

/** What is next by the road first, the others in the order of work. */
function inOrder(road: readonly RoadStep[]): TrialKindKey[] {
  const next = trialKindKeys.find((kind) => road.some(({ isNext, key }) => isNext && key === kind));
  return next ? [next, ...trialKindKeys.filter((kind) => kind !== next)] : [...trialKindKeys];
}

/** Pixels of a millimetre that all pieces fit with. */
function scaleOf(pieces: readonly FirstPiece[]): number {
  const widest = Math.max(1, ...pieces.map(({ thumbnail }) => thumbnail.widthMm));
  const tallest = Math.max(1, ...pieces.map(({ thumbnail }) => drawnHeightMm(thumbnail)));
  return Math.min(MOST.pxPerMm, MOST.widePx / widest, MOST.tallPx / tallest);
}

const STEPS: Record<string, number> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };

/** The arrow keys walk along the cards; Enter asks, as of any button. */
function walk(event: KeyboardEvent<HTMLElement>): void {
  const cards = [...event.currentTarget.querySelectorAll("button")];
  const at = cards.indexOf(event.target as HTMLButtonElement);
  const ends: Record<string, number> = { Home: 0, End: cards.length - 1 };
  const to = ends[event.key] ?? (STEPS[event.key] === undefined ? -1 : at + STEPS[event.key]);
  if (at < 0 || !cards[to]) return;
  event.preventDefault();
  cards[to].focus();
}
