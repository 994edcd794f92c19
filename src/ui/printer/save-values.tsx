"use client";
/**
 * Saving in the printer: first it is asked what is in force that nobody meant to save; that is shown with where it comes from, goes back by
 * default and is kept by choice. The printer's record on the shelf can take the values over in the same press.
 */
import { useQueryClient } from "@tanstack/react-query";
import { Modal } from "antd";
import dayjs from "dayjs";
import { useState } from "react";
import { valueFor } from "@/core/firmware/values";
import { sayFirmwareValue } from "@/core/firmware/values/say";
import { plainNumber } from "@/core/units";
import { api, ApiError, SavedPrinter } from "../common/api";
import { keys } from "../common/keys";
import { useTell } from "../common/talk";
import styles from "./values.module.css";

interface Stray {
  id: string;
  inForce: number;
  stored: number;
  by: { source: string; line: string; at: string; job: string | null } | null;
}

interface Difference {
  field: string;
  label: string;
  unit: string;
  inRecord: number;
  told: number;
}

export interface SaveQuestion {
  strays: Stray[];
  isKnown: boolean;
  record: Difference[];
}

interface Saved {
  values: { id: string; meant: number; stored: number | null; same: boolean }[];
  lost: string[];
  putBack: string[];
  record: Difference[];
}

/** The state of a save: what is asked, and how it is answered. */
export function useSaveValues(printer: SavedPrinter, onSaved: () => void = () => undefined) {
  const client = useQueryClient();
  const tell = useTell();
  const [busy, setBusy] = useState(false);
  const [question, setQuestion] = useState<SaveQuestion | null>(null);
  const guarded = async (work: () => Promise<void>) => {
    setBusy(true);
    try {
      await work();
    } catch (error) {
      tell.error(error);
    } finally {
      setBusy(false);
      await client.invalidateQueries({ queryKey: keys.firmware(printer.id) });
    }
  };
  const store = (keep: string[], takeOver: boolean) =>
    guarded(async () => {
      const saved = await api.post<Saved>("/link/values/save", { printerId: printer.id, keep, takeOver });
      setQuestion(null);
      if (saved.record.length > 0) await client.invalidateQueries({ queryKey: keys.printers });
      if (saved.lost.length > 0) throw new ApiError(409, sayLost(saved));
      tell.done(saySaved(saved, printer.name));
      onSaved();
    });
  const save = () =>
    guarded(async () => {
      const asked = await api.post<SaveQuestion>("/link/values/strays", { printerId: printer.id });
      if (asked.strays.length === 0 && asked.record.length === 0 && asked.isKnown) await store([], false);
      else setQuestion(asked);
    });
  return { busy, question, save, store, drop: () => setQuestion(null) };
}

const say = (id: string, value: number) => {
  const definition = valueFor(id)?.definition;
  return definition ? sayFirmwareValue(definition, value) : plainNumber(value);
};
const nameOf = (id: string) => valueFor(id)?.definition.label ?? id;

function saySaved({ values, record }: Saved, name: string): string {
  const said = values.map(({ id, meant }) => `${nameOf(id)} ${say(id, meant)}`).join(", ");
  const also = record.length > 0 ? ` ${name}’s record on the shelf says the same now.` : "";
  return `Saved and read back${said ? `: ${said}` : ""}.${also}`;
}

function sayLost({ values, lost }: Saved): string {
  const said = values
    .filter(({ id }) => lost.includes(id))
    .map(
      ({ id, meant, stored }) =>
        `${nameOf(id)}: ${say(id, meant)} was meant, ${stored === null ? "nothing" : say(id, stored)} is stored`,
    );
  return `Saved, but not all of it. ${said.join("; ")}.`;
}

/** `left by the print “Tower”, 1 Dec 09:10` */
function sayOrigin({ by }: Stray): string {
  if (!by) return "set before this link was made";
  const at = dayjs(by.at).format("D MMM, HH:mm");
  const origin: Record<string, string> = {
    job: by.job ? `left by the print “${by.job}”` : "left by a print",
    console: "typed in the console",
    measure: "set by a measurement",
    nudge: "changed by hand during a print",
    values: "set on this page",
  };
  return `${origin[by.source] ?? "set"}, ${at}: ${by.line}`;
}

interface Props {
  printer: SavedPrinter;
  saving: ReturnType<typeof useSaveValues>;
}

/** The question before a save; nothing where there is none. */
export function SaveDialog({ printer, saving }: Props) {
  const { question } = saving;
  return question && <Asked printer={printer} question={question} saving={saving} />;
}

function Asked({ printer, question, saving }: Props & { question: SaveQuestion }) {
  const { strays, isKnown, record } = question;
  const [keep, setKeep] = useState<ReadonlySet<string>>(new Set());
  const [takeOver, setTakeOver] = useState(true);
  return (
    <Modal
      open
      title="Before it is saved"
      okText="Save in the printer"
      confirmLoading={saving.busy}
      onCancel={saving.drop}
      onOk={() => void saving.store([...keep], record.length > 0 && takeOver)}
    >
      {strays.length > 0 && (
        <>
          <p>
            Saving stores everything that is set now. These values were not changed here on purpose; they go back to
            what is stored, unless you keep them.
          </p>
          <ul className={styles.strays}>
            {strays.map((stray) => (
              <li key={stray.id}>
                <label>
                  <input
                    type="checkbox"
                    checked={keep.has(stray.id)}
                    onChange={({ target }) => {
                      const next = new Set(keep);
                      if (target.checked) next.add(stray.id);
                      else next.delete(stray.id);
                      setKeep(next);
                    }}
                  />{" "}
                  keep {nameOf(stray.id)} <b className="mono">{say(stray.id, stray.inForce)}</b> (stored:{" "}
                  <span className="mono">{say(stray.id, stray.stored)}</span>)
                </label>
                <div className="dim">{sayOrigin(stray)}</div>
              </li>
            ))}
          </ul>
        </>
      )}
      {!isKnown && (
        <p>
          What {printer.name} stores is not known before it was saved or switched on once. Everything set now is stored.
        </p>
      )}
      {record.length > 0 && (
        <label className={styles.takeOver}>
          <input type="checkbox" checked={takeOver} onChange={({ target }) => setTakeOver(target.checked)} /> Change the
          record of {printer.name} on the shelf, too:{" "}
          {record.map(({ field, label, unit, inRecord, told }, i) => (
            <span key={field}>
              {i > 0 && ", "}
              {label}{" "}
              <span className="mono">
                {plainNumber(inRecord)} → {plainNumber(told)} {unit}
              </span>
            </span>
          ))}
          . Files are worked out with it.
        </label>
      )}
    </Modal>
  );
}
