"use client";
/** Everything that is measured rather than printed, in the order of work. */
import { PointedLink } from "../common/pointed-link";
import { tuneFor, tuneKeys } from "@/core/measure";
import { sayResult } from "@/core/measure/result";
import { When } from "../common/when";
import { Loading } from "../common/loading";
import { NoPrinter } from "../common/no-printer";
import { useBenchPair } from "../common/queries";
import { useMeasurements } from "../printer/kept-firmware";
import { Drawing } from "./drawing";
import styles from "./measure.module.css";

export function MeasurePage() {
  const { printer } = useBenchPair();
  const measured = useMeasurements(printer?.id ?? 0).data ?? [];
  if (printer === undefined) return <Loading />;
  if (printer === null) return <NoPrinter />;
  const next = tuneKeys.find((key) => !tuneFor(key).refuses?.(printer) && !measured.some(({ tune }) => tune === key));
  return (
    <>
      <h1>Does {printer.name} do what it should?</h1>
      <p className="sub">
        Measured with ruler and calliper, with the printer linked or by a file it prints from a card. Steps first:
        everything else stands on them.
      </p>
      <ol className="rows section" aria-label="Measured tunes in the order of work">
        {tuneKeys.map((key) => {
          const tune = tuneFor(key);
          const last = measured.find((one) => one.tune === key);
          const refusal = tune.refuses?.(printer) ?? null;
          return (
            <li key={key} className={`list-row ${styles.row}`}>
              <Drawing of={tune.draws} moment="after" small />
              <div>
                <PointedLink className="title" href={`/measure/${key}`}>
                  {tune.title}
                </PointedLink>
                <div className="dim">{refusal ?? tune.question}</div>
              </div>
              <div>
                {last ? (
                  <>
                    <span className="mono">{sayResult(last.result)}</span>
                    <div className="dim">
                      <When at={last.measuredAt} format="D MMM YYYY" />
                    </div>
                  </>
                ) : (
                  <span className="dim">not measured yet</span>
                )}
              </div>
              <PointedLink
                className={`ant-btn ${styles.goTo} ${key === next ? "go" : ""}`}
                href={`/measure/${key}`}
                aria-label={`Measure ${tune.title}`}
              >
                Measure
              </PointedLink>
            </li>
          );
        })}
      </ol>
    </>
  );
}
