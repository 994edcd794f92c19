"use client";
/** Printers and spools: list, add, copy, edit, remove with undo. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { PointedLink } from "../common/pointed-link";
import { ReactNode } from "react";
import { optionsOf } from "@/core/options/option";
import { roadKindKeys, trialKindFor } from "@/core/trials";
import { dialects } from "@/core/machine/dialects";
import { spoolTitle } from "@/core/shelf/spool-title";
import { plainNumber } from "@/core/units";
import { Loading } from "../common/loading";
import { api, KeptValue, SavedPrinter, SavedSpool } from "../common/api";
import { keys } from "../common/keys";
import { useBenchPair, usePrinters, useRemoveWithUndo, useSpools } from "../common/queries";
import { useTell } from "../common/talk";
import styles from "./shelf-page.module.css";
import { PrinterPicture, SpoolPicture } from "./shelf-pictures";
import { LinkButton } from "../common/link-button";

export function ShelfPage() {
  const printers = usePrinters();
  const spools = useSpools();
  const settledOf = useSettled();
  return (
    <>
      <div className="page-head">
        <div>
          <h1>Shelf</h1>
          <p className="sub">Your printers and spools. Trials take their limits, values and start lines from here.</p>
        </div>
        <span className="line">
          <LinkButton href="/shelf/kept">Kept values</LinkButton>
          <LinkButton href="/shelf/bin">Bin</LinkButton>
          <LinkButton href="/shelf/program">This program</LinkButton>
        </span>
      </div>
      <Section
        title="Printers"
        what="printer"
        path="/printers"
        queryKey="printers"
        list={printers.data}
        error={printers.error}
        nameOf={({ name }) => name}
        pictureOf={(printer) => <PrinterPicture printer={printer} />}
      >
        {(printer: SavedPrinter) => (
          <>
            <span className="dim">
              {printer.bedShape === "round"
                ? `Ø ${plainNumber(printer.bedWidthMm)}`
                : `${plainNumber(printer.bedWidthMm)} × ${plainNumber(printer.bedDepthMm)}`}{" "}
              × {plainNumber(printer.buildHeightMm)} mm, {plainNumber(printer.nozzleMm)} mm nozzle
              {printer.tools > 1 ? `, ${printer.tools} tools` : ""}
            </span>
            <span className="dim">
              up to {printer.highestNozzleC} °C, {dialects[printer.dialect].label.toLowerCase()}
            </span>
          </>
        )}
      </Section>
      <Section
        title="Spools"
        what="spool"
        path="/spools"
        queryKey="spools"
        list={spools.data}
        error={spools.error}
        nameOf={(spool) => spoolTitle(spool)}
        pictureOf={(spool) => <SpoolPicture spool={spool} {...settledOf(spool)} />}
      >
        {(spool: SavedSpool) => (
          <>
            <span className="dim">
              {spool.material}, nozzle {spool.labelMinC}–{spool.labelMaxC} °C, bed {spool.bedC} °C, fan{" "}
              {plainNumber(spool.fanPercent)} %
            </span>
            <span className="dim">
              {saySettled(settledOf(spool))}
              {spool.pricePerKg > 0 && `, ${plainNumber(spool.pricePerKg, 2)} ${spool.currency} a kilogram`}
            </span>
          </>
        )}
      </Section>
    </>
  );
}

interface Settled {
  kept: number;
  /** How many settings the questions of the road look for. */
  of: number;
}

/** How many settings have a value that counts for a spool, on the printer on the bench. */
function useSettled(): (spool: SavedSpool) => Settled {
  const printer = useBenchPair().printer;
  const kept = useQuery({ queryKey: keys.allKept, queryFn: () => api.get<KeptValue[]>("/kept") }).data ?? [];
  if (!printer) return () => ({ kept: 0, of: 1 });
  const asked = new Set(
    roadKindKeys.map((key) => {
      const { setting, options } = trialKindFor(key);
      return setting(printer, optionsOf(options, {}, printer));
    }),
  );
  return ({ id }) => {
    const own = kept.filter(({ spoolId, printerId }) => spoolId === id && printerId === printer.id);
    const settled = new Set(own.map(({ setting }) => setting).filter((setting) => asked.has(setting)));
    return { kept: settled.size, of: asked.size };
  };
}

const saySettled = ({ kept, of }: Settled) =>
  kept === 0 ? "nothing kept yet" : `${kept} of ${of} values kept on the printer on the bench`;

interface SectionProps<T extends { id: number; name: string }> {
  title: string;
  what: string;
  path: string;
  queryKey: string;
  list: T[] | undefined;
  error: unknown;
  nameOf(record: T): string;
  pictureOf(record: T): ReactNode;
  children(record: T): ReactNode;
}

function Section<T extends { id: number; name: string }>({
  title,
  what,
  path,
  queryKey,
  list,
  error,
  nameOf,
  pictureOf,
  children,
}: SectionProps<T>) {
  const client = useQueryClient();
  const remove = useRemoveWithUndo(path, queryKey);
  const tell = useTell();
  const copy = async (record: T) => {
    try {
      await api.post(path, { ...record, name: `${record.name} copy`.slice(0, 60) });
      await client.invalidateQueries({ queryKey: [queryKey] });
    } catch (failure) {
      tell.error(failure);
    }
  };
  return (
    <section className="section" aria-label={title}>
      <div className={`page-head ${styles.head}`}>
        <h2>{title}</h2>
        <LinkButton href={`/shelf${path}/new`}>Add a {what}</LinkButton>
      </div>
      {!list && !error && <Loading />}
      {error !== null && error !== undefined && (
        <div className="empty" role="alert">
          The {what}s could not be loaded. Is Cuchara still running?
        </div>
      )}
      {list?.length === 0 && <div className="empty">No {what} yet. Add the one you print with.</div>}
      {list && list.length > 0 && (
        <ul className="rows">
          {list.map((record) => (
            <li key={record.id} className={`list-row ${styles.record}`}>
              {pictureOf(record)}
              <span>
                <PointedLink className="title" href={`/shelf${path}/${record.id}`}>
                  {nameOf(record)}
                </PointedLink>
              </span>
              {children(record)}
              <span className="line">
                <button className="link-button" aria-label={`Copy ${nameOf(record)}`} onClick={() => void copy(record)}>
                  Copy
                </button>
                <button
                  className="link-button"
                  aria-label={`Remove ${nameOf(record)}`}
                  onClick={() => void remove(record.id, nameOf(record))}
                >
                  Remove
                </button>
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
