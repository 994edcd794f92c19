"use client";
import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { PointedLink } from "../common/pointed-link";
import { useCallback, useMemo, useState } from "react";
import { plainNumber } from "@/core/units";
import type { BriefTrial } from "@/core/trials/brief";
import { api } from "../common/api";
import { keys } from "../common/keys";
import { LinkButton } from "../common/link-button";
import { useListFilter } from "../common/list-filter";
import { LazyPicture } from "../common/lazy-picture";
import { Loading } from "../common/loading";
import { LongList } from "../common/long-list";
import { useRemoveWithUndo, useTrials } from "../common/queries";
import { useShelfNames } from "../common/use-shelf-names";
import { useAsk } from "../common/talk";
import { When } from "../common/when";
import { useAct } from "../common/use-act";
import { BandStrip } from "./band-strip";
import { CopyTrial } from "./dialogs-later";
import styles from "./trial-list.module.css";

const ROW_PX = 71;
/** Room for the picture of a piece. */
const FACE = { widthPx: 84, heightPx: 46 };
const NONE: BriefTrial[] = [];

export function TrialList() {
  const trials = useTrials();
  const [copying, setCopying] = useState<BriefTrial | null>(null);
  return (
    <>
      <div className={`page-head ${styles.head}`}>
        <div>
          <h1>Trials</h1>
          <p className="sub">One question each, put to one printer and one spool.</p>
        </div>
        <LinkButton className="go" size="large" href="/trials/new">
          New trial
        </LinkButton>
      </div>
      {trials.isLoading && <Loading />}
      {trials.error && (
        <div className="empty" role="alert">
          The trials could not be loaded. <Button onClick={() => void trials.refetch()}>Try again</Button>
        </div>
      )}
      {trials.data?.length === 0 && (
        <div className="empty">
          <h2>No trial yet</h2>
          <p>Ask how hot the spool on the bench wants to be.</p>
          <LinkButton href="/trials/new">New trial</LinkButton>
        </div>
      )}
      <Rows trials={trials.data ?? NONE} onCopyTo={setCopying} />
      {copying && <CopyTrial trial={copying} onClose={() => setCopying(null)} />}
    </>
  );
}

const states = (["planned", "printed", "read", "kept"] as const).map((value) => ({ value, label: value }));

/** `kept 208 °C` */
function sayState({ state, kept, decimals, unit }: BriefTrial): string {
  return state === "kept" && kept !== null ? `kept ${plainNumber(kept, decimals + 1)} ${unit}`.trim() : state;
}

function Rows({ trials, onCopyTo }: { trials: BriefTrial[]; onCopyTo(trial: BriefTrial): void }) {
  const removeAtOnce = useRemoveWithUndo("/trials", "trials");
  const ask = useAsk();
  const remove = async ({ id, name, state }: BriefTrial) => {
    const isPrinted = state !== "planned";
    const question = {
      title: `Remove “${name}” with what was printed and read of it? It stays in the bin for 30 days.`,
      okText: "Remove it all",
      isDestructive: true,
    };
    if (isPrinted && !(await ask(question))) return;
    await removeAtOnce(id, `“${name}”`);
  };
  const client = useQueryClient();
  const { act } = useAct();
  const copy = ({ id }: BriefTrial) =>
    act(async () => {
      await api.post(`/trials/${id}/copy`);
      await client.invalidateQueries({ queryKey: keys.trials });
    });
  const nameOf = useShelfNames();
  const words = useCallback(
    ({ name, kindLabel, printerId, spoolId, bands, kept }: BriefTrial) =>
      [
        name,
        kindLabel,
        nameOf.printer(printerId),
        nameOf.spool(spoolId),
        ...bands.map(([, value]) => value ?? ""),
        kept === null ? "" : `kept ${kept}`,
      ].join(" "),
    [nameOf],
  );
  const kinds = useMemo(() => [...new Map(trials.map(({ kind, kindLabel }) => [kind, kindLabel]))], [trials]);
  const { found, fields } = useListFilter(trials, words, [
    nameOf.byPrinter,
    nameOf.bySpool,
    { label: "Any state", of: ({ state }) => state, options: states },
    { label: "Any question", of: ({ kind }) => kind, options: kinds.map(([value, label]) => ({ value, label })) },
  ]);
  if (trials.length === 0) return null;
  return (
    <>
      {fields}
      {found.length === 0 && <div className="empty">No trial fits. Choose less, or search for something else.</div>}
      <LongList label="Trials" rows={found} rowPx={ROW_PX} className={`list-row ${styles.row}`} keyOf={({ id }) => id}>
        {(trial) => (
          <>
            <LazyPicture path={`/trials/${trial.id}`} version={trial.version} box={FACE} winner={trial.kept} />
            <div>
              <PointedLink className="title" href={`/trials/${trial.id}`}>
                {trial.name}
              </PointedLink>
              <div className="dim">
                {trial.kindLabel}, {sayState(trial)}
              </div>
            </div>
            <div className="dim">
              {nameOf.printer(trial.printerId)}
              <br />
              {nameOf.spool(trial.spoolId)}
            </div>
            <BandStrip trial={trial} />
            <div className={styles.acts}>
              <span className="dim">
                <When at={trial.updatedAt} format="D MMM, HH:mm" />
              </span>
              <button className="link-button" onClick={() => void copy(trial)}>
                Copy
              </button>
              <button className="link-button" onClick={() => onCopyTo(trial)}>
                Copy to …
              </button>
              <button className="link-button" onClick={() => void remove(trial)}>
                Remove
              </button>
            </div>
          </>
        )}
      </LongList>
    </>
  );
}
