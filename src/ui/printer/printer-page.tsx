"use client";
/** One printer: its link, the talk with it, its firmware's values, its heat and its job. */
import { useSearchParams } from "next/navigation";
import { useState } from "react";
import type { SavedPrinter } from "../common/api";
import { Loading } from "../common/loading";
import { NoPrinter } from "../common/no-printer";
import { useBenchPair, usePrinters } from "../common/queries";
import { TabRow } from "../common/tab-row";
import { LinkCard } from "./link-card";
import { useLinkFeed } from "./link-feed";
import { BrokenJobs } from "./broken-jobs";
import { ConsoleView, HeatView, JobView, ValuesView } from "./opened-later";

type View = "console" | "values" | "heat" | "job";
const views: { key: View; label: string }[] = [
  { key: "console", label: "Console" },
  { key: "values", label: "Firmware values" },
  { key: "heat", label: "Heat" },
  { key: "job", label: "Job" },
];

/** The printer on the bench. */
export function BenchPrinterPage() {
  const { printer } = useBenchPair();
  if (printer === undefined) return <Loading />;
  if (printer === null) return <NoPrinter />;
  return <LinkedPrinter key={printer.id} printer={printer} />;
}

export function PrinterPage({ id }: { id: number }) {
  const printers = usePrinters().data;
  if (!printers) return <Loading />;
  const printer = printers.find((one) => one.id === id);
  if (!printer) {
    return (
      <div className="empty">
        <h1>There is no printer {id}</h1>
        <p>It may have been removed from the shelf.</p>
      </div>
    );
  }
  return <LinkedPrinter key={id} printer={printer} />;
}

function LinkedPrinter({ printer }: { printer: SavedPrinter }) {
  const query = useSearchParams();
  const asked = query.get("view");
  const [view, setView] = useState<View>(views.find(({ key }) => key === asked)?.key ?? "console");
  const [all, setAll] = useState(false);
  const feed = useLinkFeed(printer.id, { all, heat: view === "heat" });
  const choose = (next: View) => {
    setView(next);
    // The address remembers the view; the page itself stays, and so does what it hears.
    window.history.replaceState(null, "", `?view=${next}`);
  };
  return (
    <>
      <div className="page-head">
        <div>
          <h1>{printer.name}</h1>
          <p className="sub">
            {feed.deaf
              ? "Cuchara doesn't answer. Is it still running?"
              : "Nothing is sent to a printer that you did not ask for."}
          </p>
        </div>
        <TabRow<View> label="View" look="steps" tabs={views} chosen={view} onChoose={choose} />
      </div>
      <BrokenJobs printerId={printer.id} />
      <LinkCard printer={printer} status={feed.status} />
      {view === "console" && <ConsoleView printer={printer} feed={feed} all={all} onAll={setAll} />}
      {view === "values" && <ValuesView printer={printer} status={feed.status} />}
      {view === "heat" && <HeatView printer={printer} feed={feed} />}
      {view === "job" && <JobView printer={printer} feed={feed} />}
    </>
  );
}
