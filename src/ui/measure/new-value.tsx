"use client";
/** The new value that the readings come to, and what is done with it. */
import { Button } from "antd";
import { dialects } from "@/core/machine/dialects";
import { valueFor } from "@/core/firmware/values";
import { valueLine } from "@/core/firmware/values/change";
import { tuneFor, TuneKey } from "@/core/measure";
import { sayResult } from "@/core/measure/result";
import { RunsSaid, togetherOf } from "@/core/measure/runs";
import type { TuneOutcome } from "@/core/measure/tune";
import { SettingKey, settingFor } from "@/core/settings";
import { plainNumber } from "@/core/units";
import type { SavedPrinter, SavedSpool } from "../common/api";
import { SaveDialog } from "../printer/save-values";
import { useResult } from "./use-result";
import type { Run } from "./use-guide";

interface Props {
  tuneKey: TuneKey;
  printer: SavedPrinter;
  spool: SavedSpool | null;
  runs: Run[];
  outcome: TuneOutcome;
  /** Readings with the values that are in force now. */
  recent: TuneOutcome[];
  said: RunsSaid | null;
  live: boolean;
  inForce: Record<string, number>;
  onRuns(runs: Run[]): void;
}

/** The lines and settings of an outcome, as they would be sent and kept. */
function linesOf({ firmware, settings }: TuneOutcome, printer: SavedPrinter): string[] {
  const { feedsPerMinute } = dialects[printer.dialect];
  const lines = Object.entries(firmware).flatMap(([id, value]) => {
    const found = valueFor(id);
    return found ? [valueLine(found.definition, found.tool, value, feedsPerMinute, printer.tools)] : [];
  });
  const held = (Object.entries(settings ?? {}) as [SettingKey, number][]).map(
    ([key, value]) => `${settingFor(key).label} ${plainNumber(value, 1)} ${settingFor(key).unit}`,
  );
  return [...lines, ...held];
}

export function NewValue(props: Props) {
  const { tuneKey, printer, runs, recent, said, live } = props;
  const tune = tuneFor(tuneKey);
  // Two runs that agree count both.
  const outcome = togetherOf(tune, recent) ?? props.outcome;
  const tried = runs.findLast(({ triedAs }) => triedAs !== undefined)?.triedAs;
  const { busy, result, isKept, attempt, saving, keep } = useResult({ ...props, outcome, tried });
  const hasFirmware = Object.keys(outcome.firmware).length > 0;
  const refusal = tune.refuses?.(printer) ?? null;
  const wasTried = runs.at(-1)?.triedAs !== undefined;
  // Once it was tried, what counts is what is in force, not what another run would make of it.
  const isConfirmed = tried !== undefined && outcome.within;
  const lines = linesOf(isConfirmed ? tried : outcome, printer);
  return (
    <section className="card" aria-label="The new value">
      <h2>The new value</h2>
      {outcome.within && !tried ? (
        <p className="dim">Nothing to change.</p>
      ) : (
        <>
          {lines.length > 0 && <pre className="mono start-lines">{lines.join("\n")}</pre>}
          {(isConfirmed || wasTried) && (
            <p className="dim">This is set now. It is lost at power-off unless you save it.</p>
          )}
          {hasFirmware && !outcome.within && !wasTried && (
            <Button
              className={recent.length > 1 || tune.agreeWithin === Infinity ? "go" : ""}
              block
              disabled={!live || busy || said?.disagree || refusal !== null}
              onClick={() => void attempt()}
            >
              Try it
            </Button>
          )}
          {hasFirmware && tried && (
            <Button
              className={`${outcome.within ? "go" : ""} above`}
              block
              disabled={!live || busy}
              onClick={() => void saving.save()}
            >
              Save in the printer
            </Button>
          )}
          {!live && hasFirmware && (
            <p className="dim above">
              Without a link: put this line at the start of your prints, or send it by other means and save it there.
            </p>
          )}
        </>
      )}
      {isKept ? (
        <p className="finding ok" role="status">
          Kept: {sayResult(result)}.
        </p>
      ) : (
        <Button block className="above" disabled={busy} onClick={() => void keep()}>
          Keep it
        </Button>
      )}
      {hasFirmware && (
        <p className="dim above">
          <b>Try it</b> sets it until the power goes off. <b>Save</b> stores it in the printer. <b>Keep</b> notes it
          here, with this printer, and sends nothing.
        </p>
      )}
      <SaveDialog printer={printer} saving={saving} />
    </section>
  );
}
