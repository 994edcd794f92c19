"use client";
/** The firmware's values: what they are now, what they were, what was kept, and changing one safely. */
import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import dayjs from "dayjs";
import { Fragment, useState } from "react";
import { firmwareValues, valueFor } from "@/core/firmware/values";
import { recordDifferences } from "@/core/firmware/on-the-shelf";
import { compareReadings } from "@/core/firmware/values/compare";
import { ValueGroup, valueGroups } from "@/core/firmware/values/value";
import type { LinkStatus, ValueSnapshot } from "@/core/link/state";
import { plainNumber } from "@/core/units";
import { Choice } from "../common/choice";
import { api, SavedPrinter } from "../common/api";
import { Facts } from "../common/facts";
import { Loading } from "../common/loading";

import { useKeptFirmware } from "./kept-firmware";
import { FirmwareValuesAnswer, useFirmwareValues } from "./link-queries";
import { StagedCard } from "./staged-card";
import { ValueHistory } from "./value-history";
import { sayFirmwareValue } from "@/core/firmware/values/say";
import { keys } from "../common/keys";
import { saveAs } from "../common/save-as";
import { useTell } from "../common/talk";
import { useAct } from "../common/use-act";
import styles from "./values.module.css";

/** A value about to be changed, with the figure and the reason that are proposed. */
export interface Staging {
  id: string;
  value?: number;
  why?: string;
}

interface Props {
  printer: SavedPrinter;
  status: LinkStatus | null | undefined;
}

export function ValuesView({ printer, status }: Props) {
  const answer = useFirmwareValues(printer.id).data;
  const client = useQueryClient();
  const tell = useTell();
  const [reading, setReading] = useState(false);
  const [staged, setStaged] = useState<Staging | null>(null);
  const [against, setAgainst] = useState<number | null>(null);
  const open = status?.state === "open" && !status.halted;
  if (!answer) return <Loading rows={8} />;
  const read = async () => {
    setReading(true);
    try {
      await api.post("/link/values/read", { printerId: printer.id });
      await client.invalidateQueries({ queryKey: keys.firmware(printer.id) });
    } catch (error) {
      tell.error(error);
    } finally {
      setReading(false);
    }
  };
  const [now, before] = answer.snapshots;
  const other = answer.snapshots.find(({ id }) => id === against) ?? before;
  const isBeforeRestart = Boolean(now && status?.restartedAt && now.takenAt < status.restartedAt);
  return (
    <div className="two-sides">
      <div>
        <div className="talk-tools">
          <Button className={now ? "" : "go"} loading={reading} disabled={!open} onClick={() => void read()}>
            Read the values
          </Button>
          <span className="dim">
            {now
              ? `Read ${dayjs(now.takenAt).format("D MMM, HH:mm:ss")}${now.identity.fields.FIRMWARE_NAME ? ` from ${now.identity.fields.FIRMWARE_NAME}` : ""}.`
              : "Sends M115 and the question for values, and nothing else."}
          </span>
        </div>
        {isBeforeRestart && (
          <div className="finding" role="status">
            The printer was switched off and on since. Read the values again to see what is set now.
          </div>
        )}
        {now ? (
          <ValueTable
            printer={printer}
            now={now}
            before={other}
            stored={answer.snapshots.find(({ isStored }) => isStored)}
            staged={staged?.id ?? null}
            onStage={setStaged}
          />
        ) : (
          <div className="empty">
            {open ? "Nothing was read yet." : "Link the printer above; then its values can be read."}
          </div>
        )}
      </div>
      <div className="side stays">
        <StagedCard
          key={`${staged?.id}-${staged?.value}`}
          printer={printer}
          open={open}
          staging={staged}
          now={now}
          changes={answer.changes}
          onClose={() => setStaged(null)}
        />
        {now && <RecordCard printer={printer} now={now} />}
        {now && answer.snapshots.length > 1 && (
          <Readings printer={printer} answer={answer} chosen={other} open={open} onChoose={setAgainst} />
        )}
        <ValueHistory changes={answer.changes} />
      </div>
    </div>
  );
}

/** What the firmware has otherwise than the record on the shelf, that files are worked out with. */
function RecordCard({ printer, now }: { printer: SavedPrinter; now: ValueSnapshot }) {
  const client = useQueryClient();
  const { busy, act } = useAct();
  const tell = useTell();
  const differences = recordDifferences(printer, now.entries);
  if (differences.length === 0) return null;
  const takeOver = () =>
    act(async () => {
      await api.post("/link/values/take-over", { printerId: printer.id });
      await client.invalidateQueries({ queryKey: keys.printers });
      tell.done(`The record of ${printer.name} says what its firmware says.`);
    });
  return (
    <section className="card" aria-label="Record on the shelf">
      <h2>The record differs</h2>
      <p className="dim">Files are worked out with what {printer.name}’s record on the shelf says.</p>
      <Facts
        rows={differences.map(({ label, unit, inRecord, told }): [string, string] => [
          label,
          `${plainNumber(inRecord)} → ${plainNumber(told)} ${unit}`,
        ])}
      />
      <Button className="above" loading={busy} onClick={() => void takeOver()}>
        Take over into the record
      </Button>
    </section>
  );
}

function ValueTable(props: {
  printer: SavedPrinter;
  now: ValueSnapshot;
  before: ValueSnapshot | undefined;
  /** The last reading of what the printer stores. */
  stored: ValueSnapshot | undefined;
  staged: string | null;
  onStage(staging: Staging): void;
}) {
  const { printer, now, before, stored, staged, onStage } = props;
  const kept = useKeptFirmware(printer.id);
  const old = new Map(before?.entries.map(({ id, value }) => [id, value]));
  const inStore = new Map(stored?.entries.map(({ id, value }) => [id, value]));
  const order = new Map(firmwareValues.map(({ key }, index) => [key, index]));
  const entries = now.entries
    .flatMap((entry) => {
      const found = valueFor(entry.id);
      return found ? [{ ...entry, ...found }] : [];
    })
    .sort((a, b) => order.get(a.definition.key)! - order.get(b.definition.key)! || a.tool - b.tool);
  return (
    <div className="card sheet">
      <table className={`grid-table ${styles.values}`}>
        <thead>
          <tr>
            <th>Value</th>
            <th title={`Set now, read ${dayjs(now.takenAt).format("D MMM, HH:mm")}`}>Set now</th>
            <th title={stored ? `Stored, as read ${dayjs(stored.takenAt).format("D MMM, HH:mm")}` : undefined}>
              Stored{stored ? `, ${dayjs(stored.takenAt).format("D MMM, HH:mm")}` : ""}
            </th>
            <th>{before ? dayjs(before.takenAt).format("D MMM, HH:mm") : "Reading before"}</th>
            <th>Kept</th>
            <th>Line</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {(Object.keys(valueGroups) as ValueGroup[]).map((group) => {
            const own = entries.filter(({ definition }) => definition.group === group);
            return own.length === 0 ? null : (
              <Fragment key={group}>
                <tr className={styles.group}>
                  <th colSpan={7} scope="rowgroup">
                    {valueGroups[group]}
                  </th>
                </tr>
                {own.map(({ id, tool, value, line, definition }) => {
                  const last = old.get(id);
                  const wanted = kept.get(id);
                  const label =
                    printer.tools > 1 && definition.toolWord ? `${definition.label}, tool ${tool}` : definition.label;
                  return (
                    <tr key={id} data-on={id === staged}>
                      <td title={definition.meaning}>{label}</td>
                      <td className="mono">
                        <b>{sayFirmwareValue(definition, value)}</b>
                      </td>
                      <td className={`mono ${inStore.has(id) && inStore.get(id) !== value ? styles.differs : ""}`}>
                        {inStore.has(id) ? plainNumber(inStore.get(id)!, definition.decimals) : "not known"}
                      </td>
                      <td className={`mono ${last !== undefined && last !== value ? styles.differs : ""}`}>
                        {last === undefined ? "" : plainNumber(last, definition.decimals)}
                      </td>
                      <td className="mono">
                        {wanted && Math.abs(wanted.value - value) > 10 ** -definition.decimals ? (
                          <button
                            className={`link-button ${styles.differs}`}
                            title={`${wanted.why}. Stage it.`}
                            aria-label={`${plainNumber(wanted.value, definition.decimals)}: stage the kept ${label}`}
                            onClick={() => onStage({ id, ...wanted })}
                          >
                            {plainNumber(wanted.value, definition.decimals)}
                          </button>
                        ) : (
                          wanted && plainNumber(wanted.value, definition.decimals)
                        )}
                      </td>
                      <td className={`mono ${styles.rawCell}`} title={line}>
                        {line.trim()}
                      </td>
                      <td>
                        <button className="link-button" aria-label={`Change ${label}`} onClick={() => onStage({ id })}>
                          Change
                        </button>
                      </td>
                    </tr>
                  );
                })}
              </Fragment>
            );
          })}
          {now.otherLines.length > 0 && (
            <tr>
              <td colSpan={7}>
                <span className="dim">Also reported, not known here:</span>{" "}
                <span className="mono">{now.otherLines.map((line) => line.trim()).join(" · ")}</span>
              </td>
            </tr>
          )}
        </tbody>
      </table>
    </div>
  );
}

function Readings(props: {
  printer: SavedPrinter;
  answer: FirmwareValuesAnswer;
  chosen: ValueSnapshot | undefined;
  open: boolean;
  onChoose(id: number): void;
}) {
  const { printer, answer, chosen, open, onChoose } = props;
  const client = useQueryClient();
  const tell = useTell();
  const [now, ...earlier] = answer.snapshots;
  const differences = chosen ? compareReadings(chosen.entries, now.entries) : [];
  const sendBack = async (snapshotId: number) => {
    try {
      const { sent } = await api.post<{ sent: number }>("/link/values/send-back", {
        printerId: printer.id,
        snapshotId,
      });
      await client.invalidateQueries({ queryKey: keys.firmware(printer.id) });
      tell.done(sent === 0 ? "Nothing differed." : `${sent} values were sent back and read. They are not saved yet.`);
    } catch (error) {
      tell.error(error);
    }
  };
  const save = ({ takenAt, entries, otherLines }: ValueSnapshot) => {
    const text = [
      `; ${printer.name}, read ${takenAt}`,
      ...new Set(entries.map(({ line }) => line.trim())),
      ...otherLines,
    ].join("\n");
    saveAs(new Blob([`${text}\n`], { type: "text/plain" }), `${printer.name} ${takenAt.slice(0, 10)}.txt`);
  };
  return (
    <section className="card" aria-label="Readings">
      <h2>Earlier readings</h2>
      <Choice
        label="Compare with the reading of"
        className="whole"
        value={chosen?.id}
        options={earlier.map(({ id, takenAt }) => ({
          value: id,
          label: dayjs(takenAt).format("D MMM YYYY, HH:mm:ss"),
        }))}
        onChange={onChoose}
      />
      {differences.length === 0 ? (
        <p className="dim above">Nothing differs from now.</p>
      ) : (
        <Facts
          rows={differences.slice(0, 12).map(({ id, before, after }): [string, string] => {
            const definition = valueFor(id)?.definition;
            const say = (value: number | null) =>
              value === null ? "–" : plainNumber(value, definition?.decimals ?? 3);
            return [definition?.label ?? id, `${say(before)} → ${say(after)}`];
          })}
        />
      )}
      {chosen && (
        <p className="line above">
          <button className="link-button" onClick={() => save(chosen)}>
            Save as text
          </button>
          {open && differences.length > 0 && (
            <button className="link-button" onClick={() => void sendBack(chosen.id)}>
              Send it back
            </button>
          )}
        </p>
      )}
    </section>
  );
}
