"use client";
/** On every page: which printers are linked, how hot they are, and the emergency stop. */
import { usePathname } from "next/navigation";
import { useEffect, useRef } from "react";
import type { LinkStatus } from "@/core/link/state";
import { plainNumber, sayDuration } from "@/core/units";
import { api } from "../common/api";
import { useBench, usePrinters } from "../common/queries";
import { useLinks, usePrinterAct } from "./link-queries";
import styles from "./link-strip.module.css";
import { PointedLink } from "../common/pointed-link";

/** A temperature older than this is no longer said as if it were so now, s. */
const STALE_S = 15;

/** `205 → 210 °C, bed 60 °C`; what is not known is left out, and what nobody has asked for lately says when it was. */
function sayHeat({ heat, heatAgeS }: LinkStatus): string {
  if (!heat) return "linked";
  const was = heatAgeS !== null && heatAgeS > STALE_S ? `, ${sayDuration(heatAgeS)} ago` : "";
  const nozzle = heat.nozzles[0];
  const target = nozzle?.setC ? ` → ${plainNumber(nozzle.setC, 0)}` : "";
  return [
    nozzle ? `${plainNumber(nozzle.measuredC, 0)}${target} °C` : null,
    heat.bed ? `bed ${plainNumber(heat.bed.measuredC, 0)} °C` : null,
  ]
    .filter(Boolean)
    .join(", ")
    .concat(was);
}

/** The heats of a linked printer; old ones are grey, and asked for once when somebody looks. */
function Heat({ status }: { status: LinkStatus }) {
  const { printerId, heat, heatAgeS } = status;
  const isOld = heat === null || (heatAgeS !== null && heatAgeS > STALE_S);
  useEffect(() => {
    if (!isOld || document.visibilityState !== "visible") return;
    // Who may not ask, or asks too late, sees the age.
    api.post("/link/heat", { printerId }).catch(() => undefined);
  }, [isOld, printerId]);
  const [nozzle, ...others] = sayHeat(status).split(", ");
  return (
    <span className={isOld ? styles.old : styles.now}>
      {nozzle}
      {others.length > 0 && <span className="wide-only">, {others.join(", ")}</span>}
    </span>
  );
}

export function LinkStrip() {
  const links = useLinks().data ?? [];
  const printers = usePrinters().data ?? [];
  const pathname = usePathname();
  const act = usePrinterAct();
  const open = links.filter(({ state }) => state === "open");
  // On a printer's page the stop is for that printer; elsewhere it is for all that are linked.
  const benchId = useBench().data?.printerId ?? 0;
  const here = pathname === "/printer" ? benchId : Number(/^\/printer\/(\d+)/.exec(pathname)?.[1] ?? 0);
  const meant = open.some(({ printerId }) => printerId === here)
    ? open.filter(({ printerId }) => printerId === here)
    : open;
  const stop = () => {
    for (const { printerId } of meant) act.mutate({ path: "/link/stop", body: { printerId } });
  };
  const handler = useRef(stop);
  useEffect(() => {
    handler.current = stop;
  });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || !event.shiftKey || event.key.toLowerCase() !== "x") return;
      event.preventDefault();
      handler.current();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
  const nameOf = (printerId: number) => printers.find(({ id }) => id === printerId)?.name ?? "Printer";
  const lost = links.filter(({ state }) => state === "lost");
  if (open.length === 0 && lost.length === 0) return <span className="push wide-only">no printer linked</span>;
  return (
    <span className={styles.linked}>
      {[...open, ...lost].map((status) => (
        <PointedLink key={status.printerId} href={`/printer/${status.printerId}`} className={styles.printer}>
          <span
            className={`lamp ${status.state === "lost" || status.halted ? "bad" : status.busy ? "busy" : "on"}`}
            aria-hidden
          />
          <b className="wide-only">{nameOf(status.printerId)} </b>
          {status.state === "lost" ? "link lost" : status.halted ? "stopped" : <Heat status={status} />}
          {status.preparing && status.preparing.failed === null && " · making ready"}
          {status.job && (status.job.state === "running" || status.job.state === "paused") && (
            <> · {plainNumber(status.job.share * 100, 0)} %</>
          )}
        </PointedLink>
      ))}
      {open.length > 0 && (
        <button
          className={styles.emergency}
          onClick={stop}
          title="Emergency stop: everything off at once. Ctrl Shift X"
        >
          Stop <span className="wide-only">{meant.length === 1 ? nameOf(meant[0].printerId) : "all printers"}</span>
        </button>
      )}
    </span>
  );
}
