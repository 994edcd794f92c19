"use client";
/** What was removed: found, put back, thrown away for good. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { useCallback } from "react";
import { settingFor, SettingKey, settingKeys } from "@/core/settings";
import { api } from "../common/api";
import { keys } from "../common/keys";
import { useListFilter } from "../common/list-filter";
import { Loading } from "../common/loading";
import { LongList } from "../common/long-list";
import { useAsk, useTell } from "../common/talk";
import { useAct } from "../common/use-act";
import { When } from "../common/when";
import styles from "./kept-page.module.css";

interface Removed {
  table: string;
  id: number;
  what: string;
  name: string;
  removedAt: string;
  restore: string;
}

const ROW_PX = 52;
const NONE: Removed[] = [];

/** A kept value is stored by its setting's key. */
function nameOf({ table, name }: Removed): string {
  const [key, value] = name.split(" ");
  if (table !== "kept_values" || !settingKeys.includes(key as SettingKey)) return name;
  const { label, unit } = settingFor(key as SettingKey);
  return `${label} ${value} ${unit}`.trim();
}

export function BinPage() {
  const removed = useQuery({ queryKey: keys.bin, queryFn: () => api.get<Removed[]>("/bin") });
  const things = removed.data ?? NONE;
  const client = useQueryClient();
  const ask = useAsk();
  const tell = useTell();
  const { busy, act } = useAct();
  const words = useCallback((one: Removed) => `${one.what} ${nameOf(one)}`, []);
  const { found, fields } = useListFilter(things, words, []);
  const putBack = (one: Removed) =>
    act(async () => {
      await api.post(one.restore);
      await client.invalidateQueries();
      tell.done(`“${nameOf(one)}” is back.`);
    });
  const empty = async () => {
    const sure = await ask({
      title: `Empty the bin? ${things.length === 1 ? "One thing is" : `${things.length} things are`} gone for good.`,
      okText: "Empty it",
      isDestructive: true,
    });
    if (!sure) return;
    await act(async () => {
      await api.remove("/bin");
      await client.invalidateQueries({ queryKey: keys.bin });
    });
  };
  return (
    <>
      <div className="page-head below">
        <div>
          <h1>Bin</h1>
          <p className="sub">Removed things can be restored for 30 days.</p>
        </div>
        <Button disabled={busy || things.length === 0} onClick={() => void empty()}>
          Empty the bin
        </Button>
      </div>
      {removed.isLoading && <Loading />}
      {removed.error && (
        <div className="empty" role="alert">
          {removed.error.message}
        </div>
      )}
      {removed.data?.length === 0 && <div className="empty">Nothing was removed in the last 30 days.</div>}
      {fields}
      {things.length > 0 && found.length === 0 && <div className="empty">Nothing in the bin is called that.</div>}
      <LongList
        label="Removed"
        rows={found}
        rowPx={ROW_PX}
        className={`list-row ${styles.row}`}
        keyOf={({ table, id }) => `${table} ${id}`}
      >
        {(one) => (
          <>
            <b>{nameOf(one)}</b>
            <span className="dim">{one.what}</span>
            <span className="dim">
              removed <When at={one.removedAt} />
            </span>
            <button
              className="link-button"
              aria-label={`Put ${nameOf(one)} back`}
              disabled={busy}
              onClick={() => void putBack(one)}
            >
              Put it back
            </button>
          </>
        )}
      </LongList>
    </>
  );
}
