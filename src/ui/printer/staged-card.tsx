"use client";
/** One value about to be changed: staged, tried, then saved or put back. */
import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { dialects } from "@/core/machine/dialects";
import { valueFor } from "@/core/firmware/values";
import { stageChange, valueLine } from "@/core/firmware/values/change";
import type { ValueChange, ValueSnapshot } from "@/core/link/state";
import { api, ApiError, SavedPrinter } from "../common/api";
import { NumberField } from "../common/number-field";
import { TextField } from "../common/text-field";

import { sayFirmwareValue } from "@/core/firmware/values/say";
import { sayAdded, withStartLines } from "@/core/firmware/start-lines";
import { SaveDialog, useSaveValues } from "./save-values";
import type { Staging } from "./values-view";
import { keys } from "../common/keys";
import { useAsk, useTell } from "../common/talk";
import styles from "./values.module.css";

interface Props {
  printer: SavedPrinter;
  open: boolean;
  staging: Staging | null;
  now: ValueSnapshot | undefined;
  changes: ValueChange[];
  onClose(): void;
}

export function StagedCard({ printer, open, staging, now, changes, onClose }: Props) {
  const inForce = newestOfEach(changes).filter(({ state }) => state === "tried");
  if (!staging && inForce.length === 0) {
    return (
      <section className="card" aria-label="Staged">
        <h2>Change a value</h2>
        <p className="dim">
          Press Change beside a value. It is staged first: nothing is sent before you say so, and nothing is saved
          before you have seen that it took.
        </p>
      </section>
    );
  }
  return (
    <>
      {staging && <Staged printer={printer} open={open} staging={staging} now={now} onClose={onClose} />}
      {inForce.length > 0 && <InForce printer={printer} open={open} changes={inForce} next={!staging} />}
    </>
  );
}

/** The last change of every value. */
function newestOfEach(changes: ValueChange[]): ValueChange[] {
  const seen = new Set<string>();
  return changes.filter(({ valueId, state }) => {
    if (state === "put back" || seen.has(valueId)) return false;
    seen.add(valueId);
    return true;
  });
}

function Staged({ printer, open, staging, now, onClose }: Omit<Props, "changes"> & { staging: Staging }) {
  const { id: valueId } = staging;
  const ask = useAsk();
  const client = useQueryClient();
  const tell = useTell();
  const found = valueFor(valueId)!;
  const from = now?.entries.find(({ id }) => id === valueId)?.value ?? null;
  const [value, setValue] = useState(staging.value ?? from ?? 0);
  const [why, setWhy] = useState(staging.why ?? "");
  const [busy, setBusy] = useState(false);
  const { definition } = found;
  const printerOf = { feedsPerMinute: dialects[printer.dialect].feedsPerMinute, tools: printer.tools };
  const staged = stageChange(valueId, from, value, printerOf);
  const attempt = async () => {
    if (!staged.ok) return;
    const { ask: doubt } = staged.value;
    if (doubt && !(await ask({ title: doubt, okText: "Yes, try it", cancelText: "No" }))) return;
    setBusy(true);
    try {
      const { taken } = await api.post<{ taken: boolean }>("/link/values/try", {
        printerId: printer.id,
        id: valueId,
        value,
        why,
        confirmed: doubt !== null,
      });
      await client.invalidateQueries({ queryKey: keys.firmware(printer.id) });
      if (taken) {
        tell.done(`${definition.label} is ${sayFirmwareValue(definition, value)} now, read back.`);
        onClose();
      } else
        tell.error(
          new ApiError(409, `The printer did not take it: it still reports another ${definition.label.toLowerCase()}.`),
        );
    } catch (error) {
      tell.error(error);
    } finally {
      setBusy(false);
    }
  };
  return (
    <section className={`card ${styles.staged}`} aria-label="Staged">
      <h2>{definition.label}</h2>
      <p className="dim">{definition.meaning}</p>
      <p className="line apart">
        <span className="mono">{from === null ? "?" : sayFirmwareValue(definition, from)}</span> →
        <NumberField
          label={`New ${definition.label}`}
          value={value}
          unit={definition.unit}
          low={definition.lowest}
          high={definition.highest}
          step={10 ** -Math.min(2, definition.decimals)}
          decimals={definition.decimals}
          width={76}
          onChange={setValue}
        />
      </p>
      {staged.ok ? (
        <>
          <p className="dim">
            Will be sent: <span className={`mono ${styles.toSend}`}>{staged.value.line}</span>
          </p>
          {staged.value.ask && <div className="finding">{staged.value.ask}</div>}
        </>
      ) : (
        <div className="finding stop">{staged.message}</div>
      )}
      <TextField
        aria-label="Why"
        placeholder="Why? (stands in the history)"
        className="apart"
        value={why}
        onChange={setWhy}
      />
      <div className="line">
        <Button
          className="go"
          loading={busy}
          disabled={!open || !staged.ok || value === from}
          onClick={() => void attempt()}
        >
          Try it
        </Button>
        <Button onClick={onClose}>Drop it</Button>
      </div>
    </section>
  );
}

function InForce(props: { printer: SavedPrinter; open: boolean; changes: ValueChange[]; next: boolean }) {
  const { printer, open, changes, next } = props;
  const client = useQueryClient();
  const tell = useTell();
  const [busy, setBusy] = useState(false);
  const { saveLine, feedsPerMinute } = dialects[printer.dialect];
  const lines = changes.flatMap(({ valueId, to }) => {
    const found = valueFor(valueId);
    return found ? [valueLine(found.definition, found.tool, to, feedsPerMinute, printer.tools)] : [];
  });
  const saving = useSaveValues(printer);
  const act = async (path: string, body: Record<string, unknown>, done: string) => {
    setBusy(true);
    try {
      await api.post(path, { printerId: printer.id, ...body });
      await client.invalidateQueries({ queryKey: keys.firmware(printer.id) });
      tell.done(done);
    } catch (error) {
      tell.error(error);
    } finally {
      setBusy(false);
    }
  };
  const toStart = async () => {
    try {
      const { startLines, replaced } = withStartLines(printer.startLines, lines);
      await api.put(`/printers/${printer.id}`, { startLines });
      await client.invalidateQueries({ queryKey: keys.printers });
      tell.done(sayAdded(lines, replaced, printer.name));
    } catch (error) {
      tell.error(error);
    }
  };
  return (
    <section className="card" aria-label="Set, not saved">
      <h2>Set, not saved</h2>
      {changes.map(({ id, valueId, from, to }) => {
        const definition = valueFor(valueId)?.definition;
        return (
          <p key={id} className="below">
            {definition?.label ?? valueId}{" "}
            <span className="mono">
              {from === null ? "" : `${plain(from)} → `}
              {plain(to)}
            </span>{" "}
            {from !== null && (
              <button
                className="link-button"
                disabled={!open || busy}
                onClick={() =>
                  void act("/link/values/put-back", { changeId: id }, `Put back to ${plain(from)}, read back.`)
                }
              >
                Put it back
              </button>
            )}
          </p>
        );
      })}
      <p className="dim">
        Lost when the power goes off. Saving first asks the printer what else is set, sends{" "}
        <span className="mono">{saveLine}</span>, loads the saved values again and compares.
      </p>
      <Button
        className={`${next ? "go" : ""} apart`}
        block
        loading={busy || saving.busy}
        disabled={!open}
        onClick={() => void saving.save()}
      >
        Save in the printer
      </Button>
      <SaveDialog printer={printer} saving={saving} />
      <details>
        <summary>Lines for the start of every print instead</summary>
        <pre className="mono start-lines">{lines.join("\n")}</pre>
        <button className="link-button" onClick={() => void toStart()}>
          Add them to {printer.name}’s start lines
        </button>
      </details>
    </section>
  );
}

const plain = (value: number) => String(Math.round(value * 10_000) / 10_000);
