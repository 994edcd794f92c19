"use client";
/** Everything that is kept, for every printer and spool: search, filter, take back. */
import { useQuery } from "@tanstack/react-query";
import { PointedLink } from "../common/pointed-link";
import { useCallback, useMemo } from "react";
import { sayValue, settingFor } from "@/core/settings";
import { api, KeptValue } from "../common/api";
import { keys } from "../common/keys";
import { useListFilter } from "../common/list-filter";
import { LinkButton } from "../common/link-button";
import { Loading } from "../common/loading";
import { LongList } from "../common/long-list";
import { useRemoveWithUndo } from "../common/queries";
import { useShelfNames } from "../common/use-shelf-names";
import { When } from "../common/when";
import styles from "./kept-page.module.css";

const ROW_PX = 62;
const NONE: KeptValue[] = [];

export function KeptPage() {
  const kept = useQuery({ queryKey: keys.allKept, queryFn: () => api.get<KeptValue[]>("/kept") });
  const values = kept.data ?? NONE;
  const nameOf = useShelfNames();
  const remove = useRemoveWithUndo("/kept", "kept");
  const words = useCallback(
    (one: KeptValue) =>
      `${sayValue(one.setting, one.value)} ${settingFor(one.setting).label} ${nameOf.printer(one.printerId)} ${nameOf.spool(one.spoolId)}`,
    [nameOf],
  );
  const settings = useMemo(() => [...new Set(values.map(({ setting }) => setting))], [values]);
  const { found, fields } = useListFilter(values, words, [
    nameOf.byPrinter,
    nameOf.bySpool,
    {
      label: "Any setting",
      of: ({ setting }) => setting,
      options: settings.map((value) => ({ value, label: settingFor(value).label })),
    },
  ]);
  return (
    <>
      <h1>Kept values</h1>
      <p className="sub">What was found and holds in later trials, for each printer and spool.</p>
      {values.length > 0 && <LinkButton href="/bench/known">What this bench knows, on scales</LinkButton>}
      {kept.isLoading && <Loading />}
      {kept.error && (
        <div className="empty" role="alert">
          The kept values could not be loaded. Is Cuchara still running?
        </div>
      )}
      {kept.data?.length === 0 && (
        <div className="empty">Nothing is kept yet. Put the cursor on a trial’s best band and keep it.</div>
      )}
      {fields}
      {values.length > 0 && found.length === 0 && <div className="empty">Nothing fits. Choose less.</div>}
      <LongList
        label="Kept values"
        rows={found}
        rowPx={ROW_PX}
        className={`list-row ${styles.row}`}
        keyOf={({ id }) => id}
      >
        {(one) => (
          <>
            <span>
              <b className="mono">{sayValue(one.setting, one.value)}</b>
              <span className="dim"> {settingFor(one.setting).label.toLowerCase()}</span>
            </span>
            <span className="dim">
              {nameOf.printer(one.printerId)}, {nameOf.spool(one.spoolId)}
            </span>
            <span className="dim">
              <When at={one.keptAt} format="D MMM, HH:mm" />
              {one.trialId !== null && (
                <>
                  {" "}
                  <PointedLink href={`/trials/${one.trialId}`}>its trial</PointedLink>
                </>
              )}
            </span>
            <button className="link-button" onClick={() => void remove(one.id, sayValue(one.setting, one.value))}>
              Take it back
            </button>
          </>
        )}
      </LongList>
    </>
  );
}
