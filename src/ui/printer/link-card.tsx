"use client";
/** Making and ending the link, and how it stands. */
import { Button } from "antd";
import { useState } from "react";
import type { LinkStatus } from "@/core/link/state";
import type { SavedPrinter } from "../common/api";
import { Loading } from "../common/loading";
import { freshWay, RateChoice, WayFields, wayOf } from "../common/way-fields";
import { usePrinterAct } from "./link-queries";
import styles from "./link-card.module.css";

interface Props {
  printer: SavedPrinter;
  status: LinkStatus | null | undefined;
}

export function LinkCard({ printer, status }: Props) {
  if (status === undefined) return <Loading rows={1} />;
  return (
    <section className={`card ${styles.card}`} aria-label="Link">
      {status?.unwritten && (
        <div className="finding stop" role="alert">
          {status.unwritten} The printer got the command anyway. It is logged as soon as that is possible.
        </div>
      )}
      {status?.state === "open" ? (
        <OpenLink printer={printer} status={status} />
      ) : (
        <NewLink printer={printer} status={status} />
      )}
    </section>
  );
}

function NewLink({ printer, status }: { printer: SavedPrinter; status: LinkStatus | null }) {
  const act = usePrinterAct();
  const [draft, setDraft] = useState(freshWay);
  const transport = wayOf(draft);
  return (
    <>
      {status?.state === "lost" && (
        <div className="finding stop" role="alert">
          The link is lost: {status.lostBecause}
          {status.unsent.length > 0 && (
            <>
              {" "}
              Not sent: <span className="mono">{status.unsent.slice(0, 6).join(" · ")}</span>
              {status.unsentCount > 6 && ` and ${status.unsentCount - 6} more`}.
            </>
          )}
        </div>
      )}
      {status?.state === "opening" && (
        <div className="finding" role="status">
          Linking by {status.transport} …{" "}
          <button
            className="link-button"
            onClick={() => act.mutate({ path: "/link/disconnect", body: { printerId: printer.id } })}
          >
            Break it off
          </button>
        </div>
      )}
      <div className="link-row">
        <b>Link by</b>
        <WayFields kinds={["simulated", "serial", "tcp"]} way={draft} onWay={setDraft} />
        <Button
          className="go"
          disabled={!transport}
          loading={act.isPending}
          onClick={() => act.mutate({ path: "/link/connect", body: { printerId: printer.id, transport } })}
        >
          Link {printer.name}
        </Button>
        <span className="dim">
          {draft.kind === "simulated"
            ? "A stand-in that behaves like a printer, with nothing to break."
            : "Linking sends nothing."}
        </span>
      </div>
    </>
  );
}

function OpenLink({ printer, status }: { printer: SavedPrinter; status: LinkStatus }) {
  const act = usePrinterAct();
  const send = (path: string, body: Record<string, unknown> = {}) =>
    act.mutate({ path, body: { printerId: printer.id, ...body } });
  const doing = status.halted
    ? `Stopped: ${status.halted}`
    : status.silent
      ? `No answer to ${status.inFlight ?? ""}`
      : status.busy
        ? `Busy with ${status.inFlight ?? ""}`
        : status.inFlight
          ? `Sent ${status.inFlight}`
          : "Listens";
  return (
    <>
      <div className="link-row" role="status">
        <span className={`lamp ${status.halted || status.silent ? "bad" : status.busy ? "busy" : "on"}`} aria-hidden />
        <b>{status.transport}</b>
        {status.simulated && (
          <RateChoice rate={status.rate} onRate={(rate) => send("/link/simulator", { act: "rate", rate })} />
        )}
        <span className={`mono ${styles.doing}`}>{doing}</span>
        {status.queueLength > 0 && (
          <span className="dim" title={status.queue.map(({ text }) => text).join("\n")}>
            {status.queueLength} {status.queueLength === 1 ? "line waits" : "lines wait"}:{" "}
            <span className="mono">
              {status.queue
                .slice(0, 2)
                .map(({ text }) => text)
                .join(" · ")}
            </span>{" "}
            <button className="link-button" onClick={() => send("/link/queue", { act: "clear" })}>
              Throw away
            </button>
          </span>
        )}
        {status.display && (
          <span className="dim">
            Its screen shows <span className="mono">{status.display}</span>
          </span>
        )}
        <span className={styles.acts}>
          {status.simulated && (
            <>
              <Button size="small" onClick={() => send("/link/simulator", { act: "power-cycle" })}>
                Off and on
              </Button>
              <Button size="small" onClick={() => send("/link/simulator", { act: "pull-cable" })}>
                Pull the cable
              </Button>
            </>
          )}
          <Button size="small" onClick={() => send("/link/disconnect")}>
            End the link
          </Button>
        </span>
      </div>
      {status.silent && (
        <div className="finding stop" role="alert">
          The printer gives no answer to <span className="mono">{status.inFlight}</span>. It may still be at work: wait,
          or{" "}
          <button className="link-button" onClick={() => send("/link/queue", { act: "go-on" })}>
            go on without it
          </button>
          . The line is not sent twice.
        </div>
      )}
      {status.halted && (
        <div className="finding stop" role="alert">
          {status.halted} Heaters and motors are off. Switch the printer off and on before you go on.
        </div>
      )}
      {status.unsent.length > 0 && (
        <div className="finding">
          Not sent: <span className="mono">{status.unsent.slice(0, 8).join(" · ")}</span>
          {status.unsentCount > 8 && ` and ${status.unsentCount - 8} more`}.{" "}
          <button className="link-button" onClick={() => send("/link/queue", { act: "forget-unsent" })}>
            Forget them
          </button>{" "}
          <button
            className="link-button"
            onClick={() => {
              send("/link/lines", { lines: status.unsent });
              send("/link/queue", { act: "forget-unsent" });
            }}
          >
            Send them now
          </button>
        </div>
      )}
    </>
  );
}
