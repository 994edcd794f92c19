"use client";
/** A job: choosing what to send, and how it goes, on the height log. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Progress } from "antd";
import { useRouter, useSearchParams } from "next/navigation";
import { useEffect, useMemo, useState } from "react";
import type { JobRecord, JobStatus, JobView as JobAnswer, LinkStatus, Preparing } from "@/core/link/state";
import { layerTops } from "@/core/heightplan/layer-grid";
import { planHeightMm } from "@/core/heightplan/plan";
import { settingFor, SettingKey, settingKeys } from "@/core/settings";
import type { RulerReadings } from "@/core/simulator/ruler";
import { plainNumber, sayDuration } from "@/core/units";
import { Choice } from "../common/choice";
import { api, SavedPrinter } from "../common/api";
import { Facts } from "../common/facts";
import { LinkButton } from "../common/link-button";
import { useBenchPair, usePrinters, useTrials } from "../common/queries";
import { useRoom } from "../common/use-room";
import { HeightLog } from "../heightlog/height-log";
import { logBands } from "../trials/log-bands";
import { primaryKey } from "@/core/trials/shown";
import { inForceAt } from "@/core/link/job-facts";
import { jobColumns } from "./job-columns";
import type { LinkFeed } from "./link-feed";
import { usePrinterAct } from "./link-queries";
import { NudgeCard } from "./nudge-card";
import { keys } from "../common/keys";
import { useAsk, useTell } from "../common/talk";
import { jobWords } from "./job-words";
import { PointedLink } from "../common/pointed-link";

interface Props {
  printer: SavedPrinter;
  feed: LinkFeed;
}

const LOOK_EVERY_MS = 1000;

export function JobView({ printer, feed }: Props) {
  const status = feed.status ?? null;
  const running = isRunning(status?.job ?? null);
  const preparing = status?.preparing && status.preparing.failed === null ? status.preparing : null;
  const job = useQuery({
    queryKey: keys.job(printer.id, status?.job?.id ?? 0),
    enabled: status?.job != null,
    refetchInterval: running ? LOOK_EVERY_MS : false,
    queryFn: () => api.get<JobAnswer | null>(`/link/job?printerId=${printer.id}`),
  }).data;
  // The end of a job is looked at once more.
  const client = useQueryClient();
  const state = status?.job?.state;
  useEffect(() => {
    void client.invalidateQueries({ queryKey: keys.job(printer.id) });
    void client.invalidateQueries({ queryKey: keys.jobs(printer.id) });
    void client.invalidateQueries({ queryKey: keys.brokenJobs });
  }, [state, client, printer.id]);
  return (
    <div className="two-sides">
      <div>
        {preparing ? (
          <div className="empty">“{preparing.name}” is being made ready. Its log stands here once it is sent.</div>
        ) : job && status?.job ? (
          <JobLogView printer={printer} job={job} status={status.job} />
        ) : (
          <div className="empty">
            {status?.state === "open"
              ? "Nothing was sent yet. Choose a trial or a file on the right."
              : "Link the printer above; then a trial or a file can be sent to it."}
          </div>
        )}
      </div>
      <div className="side">
        {preparing && <PreparingCard printer={printer} preparing={preparing} />}
        {status?.job && !preparing && <JobCard printer={printer} status={status} job={status.job} />}
        {running && status?.job && job && <NudgeCard printer={printer} job={job} />}
        {!running && !preparing && <SendCard printer={printer} status={status} />}
        <PastJobs printerId={printer.id} />
      </div>
    </div>
  );
}

/** A program on its way: it goes on if this page is left. */
function PreparingCard({ printer, preparing }: { printer: SavedPrinter; preparing: Preparing }) {
  const act = usePrinterAct();
  return (
    <section className="card" aria-label="Being made ready">
      <h2>{preparing.name}, being made ready</h2>
      <Progress
        percent={Math.round(preparing.share * 100)}
        status="normal"
        strokeColor="var(--mustard)"
        aria-label="Made ready"
      />
      <p className="dim">It is built and checked, then it starts by itself. You can leave this page.</p>
      <Button
        className="above"
        onClick={() => act.mutate({ path: "/link/job/act", body: { printerId: printer.id, act: "cancel" } })}
      >
        Give it up
      </Button>
    </section>
  );
}

const isRunning = (job: JobStatus | null) => job?.state === "running" || job?.state === "paused";

function JobLogView({ printer, job, status }: { printer: SavedPrinter; job: JobAnswer; status: JobStatus }) {
  // As it is printed: the trial may have been changed since.
  const { trial } = job;
  const [follow, setFollow] = useState(true);
  const [cursor, setCursor] = useState(0);
  const roomPx = useRoom(345, 300);
  const tops = useMemo(() => Float64Array.from(job.log.tops), [job.log.tops]);
  const key: SettingKey = trial ? primaryKey(trial, printer) : "nozzleTemperature";
  const bands = useMemo(
    () =>
      trial && layerTops(planHeightMm(trial.plan), trial.firstLayerHeightMm, trial.layerHeightMm).length > 0
        ? logBands(trial, key, () => undefined).bands
        : [],
    [trial, key],
  );
  const columns = useMemo(() => jobColumns(job, key), [job, key]);
  const layer = follow ? Math.max(0, status.layer) : cursor;
  const band = bands.find(({ firstLayer, lastLayer }) => layer >= firstLayer && layer <= lastLayer);
  const inForce = settingKeys.flatMap((one) => {
    const value = inForceAt(job, one, layer);
    const { short, unit, decimals } = settingFor(one);
    return value === null ? [] : [`${short} ${plainNumber(value, decimals)} ${unit}`.trim()];
  });
  return (
    <HeightLog
      label="Height log of the job"
      columns={columns}
      bands={bands}
      tops={tops}
      topMm={job.log.tops.at(-1) ?? 1}
      cursorLayer={layer}
      onCursor={(next) => {
        setFollow(false);
        setCursor(next);
      }}
      roomPx={roomPx}
    >
      <span>
        {follow ? (
          <>
            Now at {plainNumber(status.heightMm, 2)} mm{band && `, band ${band.number} of ${bands.length}`}
          </>
        ) : (
          <button className="link-button" onClick={() => setFollow(true)}>
            Follow the nozzle
          </button>
        )}
        {inForce.length > 0 && `: ${inForce.slice(0, 6).join(", ")}`}
      </span>
    </HeightLog>
  );
}

function JobCard({ printer, status, job }: { printer: SavedPrinter; status: LinkStatus; job: JobStatus }) {
  const ask = useAsk();
  const act = usePrinterAct();
  const send = (what: "pause" | "resume" | "cancel") =>
    act.mutate({ path: "/link/job/act", body: { printerId: printer.id, act: what } });
  const cancel = async () => {
    const sure = await ask({
      title: `Cancel “${job.name}”?`,
      content: "Heaters and fan go off, the nozzle is lifted and parked. The piece is lost.",
      okText: "Cancel the job",
      isDestructive: true,
      cancelText: "Let it run",
    });
    if (sure) send("cancel");
  };
  const here = status.rate > 1 ? ` (${sayDuration(job.secondsLeft / status.rate)} at ${status.rate} ×)` : "";
  const end = new Date(Date.now() + (job.secondsLeft / status.rate) * 1000);
  return (
    <section className="card" aria-label="This job">
      <h2>
        {job.name}, {jobWords[job.state]}
      </h2>
      <Progress
        percent={Math.round(job.share * 1000) / 10}
        status="normal"
        strokeColor="var(--mustard)"
        aria-label="Lines sent"
      />
      {job.why && <p className="dim">{job.why}</p>}
      <Facts
        rows={[
          ["Line", `${job.linesTaken.toLocaleString("en")} of ${job.totalLines.toLocaleString("en")}`],
          ["Height", `${plainNumber(job.heightMm, 2)} of ${plainNumber(job.topMm, 2)} mm`],
          ["Layer", job.layer < 0 ? `before the first of ${job.layers}` : `${job.layer + 1} of ${job.layers}`],
          isRunning(job) ? ["Still to print", `${sayDuration(job.secondsLeft)}${here}`] : null,
          isRunning(job)
            ? ["Expected end", end.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })]
            : null,
          status.heat ? ["Nozzle", `${plainNumber(status.heat.nozzles[0]?.measuredC ?? 0, 1)} °C`] : null,
        ]}
      />
      {isRunning(job) && (
        <div className="line above">
          {job.state === "running" ? (
            <Button onClick={() => send("pause")}>Pause</Button>
          ) : (
            <Button className="go" onClick={() => send("resume")}>
              Resume
            </Button>
          )}
          <Button onClick={() => void cancel()}>Cancel the job</Button>
        </div>
      )}
      {!isRunning(job) && job.source === "trial" && job.heightMm > 0 && (
        <LinkButton className="go above" href={`/trials/${job.sourceId}?step=read`}>
          Read the piece
        </LinkButton>
      )}
      {!isRunning(job) && job.marks > 0 && <KeepMarks job={job} />}
      {job.state === "done" && status.simulated && <LookAtPiece printer={printer} />}
    </section>
  );
}

/** A simulated piece cannot be looked at: what the eye would say is told. */
function LookAtPiece({ printer }: { printer: SavedPrinter }) {
  const { spool } = useBenchPair();
  const look = useQuery({
    queryKey: keys.look(printer.id, spool?.id),
    enabled: spool != null,
    queryFn: () => api.get<RulerReadings>(`/link/ruler?printerId=${printer.id}&spoolId=${spool!.id}`),
  }).data;
  if (!look?.bestNozzleC || !spool) return null;
  return (
    <p className="dim above">
      The piece is simulated too: to the eye, {spool.name} comes out best near {look.bestNozzleC} °C on this printer.
    </p>
  );
}

function KeepMarks({ job }: { job: JobStatus }) {
  const router = useRouter();
  const client = useQueryClient();
  const tell = useTell();
  const keep = async () => {
    try {
      const { trialId, fileId } = await api.post<{ trialId?: number; fileId?: number }>("/link/job/keep", {
        jobId: job.id,
      });
      await client.invalidateQueries({ queryKey: keys.trials });
      router.push(trialId === undefined ? `/workshop/${fileId}` : `/trials/${trialId}`);
    } catch (error) {
      tell.error(error);
    }
  };
  return (
    <Button className="go above" block title="The changes made by hand, at their heights" onClick={() => void keep()}>
      {job.source === "trial" ? "Keep it as a trial" : "Lay it over the file"}
    </Button>
  );
}

function SendCard({ printer, status }: { printer: SavedPrinter; status: LinkStatus | null }) {
  const query = useSearchParams();
  const tell = useTell();
  const client = useQueryClient();
  const trials = useTrials().data ?? [];
  const printers = usePrinters().data ?? [];
  const files =
    useQuery({ queryKey: keys.files, queryFn: () => api.get<{ id: number; name: string }[]>("/files") }).data ?? [];
  const asked = query.get("trial")
    ? `trial-${query.get("trial")}`
    : query.get("file")
      ? `file-${query.get("file")}`
      : null;
  const [chosen, setChosen] = useState<string | null>(asked);
  const [busy, setBusy] = useState(false);
  const own = trials.filter(({ printerId }) => printerId === printer.id);
  const options = [
    ...own.map(({ id, name }) => ({ value: `trial-${id}`, label: name, group: "Trials" })),
    ...files.map(({ id, name }) => ({ value: `file-${id}`, label: name, group: "Files" })),
  ];
  const known = options.some(({ value }) => value === chosen);
  const open = status?.state === "open" && !status.halted;
  const failed = status?.preparing?.failed ?? null;
  const ask = useAsk();
  const last = status?.job && !isRunning(status.job) && status.job.heightMm > 0 ? status.job : null;
  const send = async () => {
    const [what, id] = chosen!.split("-");
    const isClear =
      !last ||
      (await ask({
        title: "Is the bed clear?",
        content: `“${last.name}” was printed here last, up to ${plainNumber(last.heightMm, 1)} mm. The next print starts at the bed.`,
        okText: "It is clear, start",
        isDestructive: true,
        cancelText: "Not yet",
      }));
    if (!isClear) return;
    setBusy(true);
    try {
      await api.post("/link/job", { printerId: printer.id, [what === "trial" ? "trialId" : "fileId"]: Number(id) });
      await client.invalidateQueries({ queryKey: keys.links });
    } catch (error) {
      tell.error(error);
    } finally {
      setBusy(false);
    }
  };
  return (
    <section className="card" aria-label="Send to the printer">
      <h2>Send to the printer</h2>
      <Choice
        label="What to print"
        className="whole"
        hint="A trial or a file"
        value={known ? chosen : null}
        options={options}
        onChange={(next) => setChosen(next)}
      />
      <p className="dim apart">
        Line by line, numbered and with checksums. Stay near while it heats and prints the first layer.
        {printers.length > 1 && " Trials made for other printers are not listed."}
      </p>
      {failed && (
        <div className="finding stop" role="alert">
          {failed}
        </div>
      )}
      <Button className={last ? "" : "go"} block disabled={!open || !known} loading={busy} onClick={() => void send()}>
        Start the job
      </Button>
    </section>
  );
}

function PastJobs({ printerId }: { printerId: number }) {
  const jobs =
    useQuery({
      queryKey: keys.jobs(printerId),
      queryFn: () => api.get<JobRecord[]>(`/link/jobs?printerId=${printerId}`),
    }).data ?? [];
  const past = jobs.filter(({ state }) => state !== "running" && state !== "paused");
  if (past.length === 0) return null;
  return (
    <section className="card" aria-label="Earlier jobs">
      <h2>Earlier jobs</h2>
      <ol className="history">
        {past.slice(0, 6).map(({ id, name, state, startedAt, heightMm, source, sourceId }) => (
          <li key={id}>
            <span className="dim">{startedAt.slice(0, 10)}</span>{" "}
            <PointedLink href={source === "trial" ? `/trials/${sourceId}?step=read` : `/workshop/${sourceId}`}>
              {name}
            </PointedLink>
            , {jobWords[state]}
            {state !== "done" && heightMm > 0 && ` at ${plainNumber(heightMm, 1)} mm`}
          </li>
        ))}
      </ol>
      <PointedLink className="dim" href="/printer/jobs">
        All jobs
      </PointedLink>
    </section>
  );
}
