"use client";
/** The program itself: where its data lie, a copy of them, what is kept of the talk, and who of the home network is let in. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import dayjs from "dayjs";
import { useEffect, useState } from "react";
import { sayBytes } from "@/core/units";
import { api } from "../common/api";
import { Choice } from "../common/choice";
import { Facts } from "../common/facts";
import { keys } from "../common/keys";
import { Loading } from "../common/loading";
import { NumberField } from "../common/number-field";
import { PickFile } from "../common/pick-file";
import { useAct } from "../common/use-act";
import { useEmptyBench } from "../common/use-empty-bench";

import styles from "./program-page.module.css";
import { useAsk, useTell } from "../common/talk";

interface About {
  version: string;
  data: string;
  dataBytes: number;
  freeBytes: number;
  talk: { lines: number; bytes: number };
  log: string;
  preferences: { talkDays: number; staleDays: number; expectsAlike: boolean };
}

type Right = "mark" | "act" | "all";

/** What a device may do, as it is chosen. */
const rights: { value: Right; label: string }[] = [
  { value: "mark", label: "read and mark" },
  { value: "act", label: "also move and heat printers" },
  { value: "all", label: "do all that this bench may" },
];

interface Device {
  id: number;
  name: string;
  may: Right;
  createdAt: string;
  seenAt: string;
}

export function ProgramPage() {
  const about = useQuery({ queryKey: keys.program, queryFn: () => api.get<About>("/program") });
  return (
    <>
      <h1>This program</h1>
      <p className="sub">Where your data is, a backup of it, and who else may use it.</p>
      {about.error && (
        <div className="empty" role="alert">
          {about.error.message} <Button onClick={() => void about.refetch()}>Try again</Button>
        </div>
      )}
      {about.isLoading && <Loading />}
      <div className={styles.cards}>
        {about.data && <DataCard about={about.data} />}
        {about.data && <DeviceCard />}
        {about.data && <ValuesCard about={about.data} />}
        {about.data && <TalkCard about={about.data} />}
      </div>
    </>
  );
}

function DataCard({ about }: { about: About }) {
  const ask = useAsk();
  const client = useQueryClient();
  const tell = useTell();
  const { busy, act } = useAct();
  const empty = useEmptyBench();
  const restore = async (file: File) => {
    const sure = await ask({
      title: "Restore this backup?",
      content: `All current data is kept as a copy and replaced by “${file.name}”. Links are closed.`,
      okText: "Put it in place",
      isDestructive: true,
    });
    if (!sure) return;
    await act(async () => {
      const { kept } = await api.putBytes<{ kept: string | null }>("/backup", file);
      await client.invalidateQueries();
      tell.done(kept ? `The backup is restored. The data from before is kept as ${kept}.` : "The backup is restored.");
    });
  };
  return (
    <section className="card" aria-label="Data">
      <h2>Data</h2>
      <Facts
        rows={[
          ["Version", about.version],
          ["All data", sayBytes(about.dataBytes)],
          ["Free on the disk", sayBytes(about.freeBytes)],
        ]}
      />
      <p className={styles.place}>
        <span className="dim">In</span> <span className="mono">{about.data}</span>
      </p>
      <p className={styles.place}>
        <span className="dim">Log</span> <span className="mono">{about.log}</span>
      </p>
      <div className={styles.acts}>
        <Button className="go" href="/api/backup" download>
          Get a backup
        </Button>
        <PickFile label="Backup" accept=".db" loading={busy} onPick={([file]) => void restore(file)}>
          Restore a backup …
        </PickFile>
        <Button loading={empty.busy} onClick={() => void empty.begin()}>
          Begin with an empty bench …
        </Button>
      </div>
      <p className="dim">
        A backup is one file with everything in it. It can be taken while a job runs, and is checked before it is
        restored.
      </p>
    </section>
  );
}

/** Kept values: how long they hold, and everything of the bench as one file that can be read in elsewhere. */
function ValuesCard({ about }: { about: About }) {
  const client = useQueryClient();
  const tell = useTell();
  const { busy, act } = useAct();
  const readIn = (file: File) =>
    act(async () => {
      let bench: unknown;
      try {
        bench = JSON.parse(await file.text());
      } catch {
        throw new Error(`“${file.name}” isn't a bench file: it is not valid JSON.`);
      }
      const added = await api.post<Record<string, number>>("/kept/import", bench);
      await client.invalidateQueries();
      const parts = Object.entries(added).flatMap(([what, count]) => (count > 0 ? [`${count} ${what}`] : []));
      tell.done(parts.length > 0 ? `New here: ${parts.join(", ")}.` : "Everything in it was here already.");
    });
  return (
    <section className="card" aria-label="Kept values">
      <h2>Kept values</h2>
      <DaysField about={about} name="staleDays" label="To be asked again after" />
      <div className={styles.field}>
        <label>
          <input
            type="checkbox"
            checked={about.preferences.expectsAlike}
            onChange={({ target }) =>
              void act(async () => {
                await api.put("/program", { expectsAlike: target.checked });
                await client.invalidateQueries();
              })
            }
          />{" "}
          Expect of a new spool what earlier ones wanted
        </label>
      </div>
      <div className={styles.acts}>
        <Button href="/api/kept/export" download>
          Everything of the bench (JSON)
        </Button>
        <PickFile
          label="Bench to read in"
          accept=".json,application/json"
          loading={busy}
          onPick={([file]) => void readIn(file)}
        >
          Import a bench …
        </PickFile>
      </div>
      <p className="dim">
        Printers, spools, all that was ever kept, and the trials. What is imported is added to what is here. If both
        have a value, the newer one wins.
      </p>
    </section>
  );
}

/** So many days, kept as soon as they are changed. */
function DaysField({ about, name, label }: { about: About; name: "staleDays" | "talkDays"; label: string }) {
  const client = useQueryClient();
  const tell = useTell();
  const keep = (days: number) =>
    api
      .put("/program", { [name]: days })
      .then(() => client.invalidateQueries({ queryKey: keys.program }))
      .catch(tell.error);
  return (
    <div className={styles.field}>
      <NumberField
        hideLabel={false}
        label={label}
        value={about.preferences[name]}
        unit="days"
        low={1}
        high={3650}
        decimals={0}
        onChange={(days) => void keep(days)}
      />
    </div>
  );
}

function TalkCard({ about }: { about: About }) {
  return (
    <section className="card" aria-label="Talk with printers">
      <h2>Talk with printers</h2>
      <Facts
        rows={[
          ["Lines kept", about.talk.lines.toLocaleString("en")],
          ["Their size", sayBytes(about.talk.bytes)],
        ]}
      />
      <DaysField about={about} name="talkDays" label="Older talk goes after" />
      <p className="dim">
        The last three jobs of a printer are kept line by line. For older jobs only the start, the end and anything
        unusual are kept, and temperatures are thinned out.
      </p>
    </section>
  );
}

function DeviceCard() {
  const devices = useQuery({ queryKey: keys.devices, queryFn: () => api.get<Device[]>("/devices") });
  const client = useQueryClient();
  const { busy, act } = useAct();
  const refresh = () => client.invalidateQueries({ queryKey: keys.devices });
  const [code, setCode] = useState<{ code: string; untilMs: number } | null>(null);
  const [may, setMay] = useState<Right>("mark");
  const known = devices.data?.length ?? 0;
  // A code that was used is used up.
  useEffect(() => setCode(null), [known]);
  return (
    <section className="card" aria-label="Devices">
      <h2>Phones and other devices</h2>
      {devices.error && <p className="dim">{devices.error.message}</p>}
      {devices.data?.length === 0 && (
        <p className="dim">
          None is let in. Start Cuchara with <span className="mono">HOST=0.0.0.0</span>, then a phone in the same
          network can be let in. On a machine without a screen, <span className="mono">npm run let-in</span> prints the
          code.
        </p>
      )}
      <ul className={styles.devices}>
        {devices.data?.map((device) => (
          <li key={device.id}>
            <span>
              <b>{device.name}</b>
              <span className="dim"> seen {dayjs(device.seenAt).format("D MMM, HH:mm")}</span>
            </span>
            <label className={styles.allow}>
              may{" "}
              <Choice
                label={`What ${device.name} may do`}
                value={device.may}
                options={rights}
                onChange={(may) =>
                  void act(async () => {
                    await api.put(`/devices/${device.id}`, { may });
                    await refresh();
                  })
                }
              />
            </label>
            <button
              className="link-button"
              aria-label={`Send ${device.name} away`}
              onClick={() =>
                void act(async () => {
                  await api.remove(`/devices/${device.id}`);
                  await refresh();
                })
              }
            >
              Send away
            </button>
          </li>
        ))}
      </ul>
      {code ? (
        <div role="status">
          <div className={styles.code}>
            {code.code.slice(0, 4)} {code.code.slice(4)}
          </div>
          <p className="dim">
            Good for one device, until {dayjs(code.untilMs).format("HH:mm")}. Open Cuchara on the device: it asks for
            the code.
          </p>
        </div>
      ) : (
        <div className="line">
          <Button
            loading={busy}
            onClick={() =>
              void act(async () => setCode(await api.post<{ code: string; untilMs: number }>("/devices/code", { may })))
            }
          >
            Let a device in
          </Button>
          <label className={styles.allow}>
            that may{" "}
            <Choice
              label="What the device may do"
              value={may}
              options={rights}
              onChange={(right: Right) => setMay(right)}
            />
          </label>
        </div>
      )}
    </section>
  );
}
