"use client";
/** What this bench knows: all kept values of all pairs, setting by setting, with what they differ by and what is out of line. */
import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import type { SettingKey } from "@/core/settings";
import { aspects, Known, KnownAspect } from "@/core/values/known";
import { api } from "../common/api";
import { keys } from "../common/keys";
import { Loading } from "../common/loading";
import { Segments } from "../common/segments";
import styles from "./known-page.module.css";
import { KnownStrip } from "./known-strip";
import { KnownTable } from "./known-table";

const aspectWords: Record<KnownAspect, string> = {
  material: "material",
  maker: "maker",
  printer: "printer",
  nozzle: "nozzle",
};

export function KnownPage() {
  const known = useQuery({ queryKey: keys.known, queryFn: () => api.get<Known[]>("/bench/known") });
  const [by, setBy] = useState<KnownAspect>("material");
  const all = known.data ?? [];
  return (
    <>
      <h1>What this bench knows</h1>
      <p className="sub">Every value you kept, for all printers and spools, one setting after the other.</p>
      {known.isLoading && <Loading />}
      {known.error && (
        <div className="empty" role="alert">
          The kept values could not be loaded. Is Cuchara still running?
        </div>
      )}
      {known.data && all.length === 0 && (
        <div className="empty">Nothing is kept yet. Keep the value that a trial has found, and it appears here.</div>
      )}
      {all.length > 0 && (
        <>
          <div className={styles.tools}>
            <span className="dim">In rows by</span>
            <Segments
              label="In rows by"
              value={by}
              options={aspects.map((value) => ({ value, label: aspectWords[value] }))}
              onChange={setBy}
            />
            <Button href="/api/bench/known?as=csv">Save as CSV</Button>
          </div>
          <nav className={styles.jumps} aria-label="Settings">
            {all.map(({ setting, label, values }) => (
              <a key={setting} href={`#${setting}`}>
                {label} <span className="dim">{values.length}</span>
              </a>
            ))}
          </nav>
          {all.map((one) => (
            <KnownCard key={one.setting} known={one} by={by} />
          ))}
        </>
      )}
    </>
  );
}

function KnownCard({ known, by }: { known: Known; by: KnownAspect }) {
  const { setting, label, differs, outOfLine, drifted } = known;
  const [strongest] = differs;
  const [isOpen, setOpen] = useState(false);
  return (
    <section className={`card ${styles.card}`} aria-label={label} id={setting satisfies SettingKey}>
      <h2>{label}</h2>
      <p className="dim">
        {strongest
          ? `Differs most by ${aspectWords[strongest.by]}: ${Math.round(strongest.share * 100)} % of all differences are between its groups.`
          : "Too few values, or too alike, to say what they differ by."}
      </p>
      <KnownStrip known={known} by={by} />
      {(outOfLine.length > 0 || drifted.length > 0) && (
        <ul className={styles.notes}>
          {drifted.map(({ why }) => (
            <li key={why}>{why}</li>
          ))}
          {outOfLine.map(({ id, why }) => {
            const one = known.values.find((value) => value.id === id);
            return (
              <li key={id}>
                {one && `${one.spool} on ${one.printer} is out of line. `}
                {why}
              </li>
            );
          })}
        </ul>
      )}
      <details onToggle={({ currentTarget }) => setOpen(currentTarget.open)}>
        <summary>As a table</summary>
        {isOpen && <KnownTable known={known} />}
      </details>
    </section>
  );
}
