"use client";
/** All jobs that were ever sent, of all printers: search and filter. */
import { useQuery } from "@tanstack/react-query";
import { useCallback } from "react";
import type { BriefJob, JobState } from "@/core/link/state";
import { plainNumber, sayDuration } from "@/core/units";
import { api } from "../common/api";
import { keys } from "../common/keys";
import { useListFilter } from "../common/list-filter";
import { Loading } from "../common/loading";
import { LongList } from "../common/long-list";
import { useShelfNames } from "../common/use-shelf-names";
import { When } from "../common/when";
import { jobWords } from "./job-words";
import styles from "./jobs-page.module.css";
import { PointedLink } from "../common/pointed-link";

const ROW_PX = 62;
const NONE: BriefJob[] = [];
const byState = {
  label: "Any end",
  of: ({ state }: BriefJob) => state,
  options: (Object.keys(jobWords) as JobState[]).map((value) => ({ value, label: jobWords[value] })),
};

/** How long a job took by the clock; nothing while it runs. */
const sayTook = ({ startedAt, endedAt }: BriefJob) =>
  endedAt === null ? "" : `, took ${sayDuration((Date.parse(endedAt) - Date.parse(startedAt)) / 1000)}`;

export function JobsPage() {
  const jobs = useQuery({ queryKey: keys.allJobs, queryFn: () => api.get<BriefJob[]>("/link/jobs?all=1") });
  const nameOf = useShelfNames();
  const words = useCallback(
    ({ name, printerId, state }: BriefJob) => `${name} ${nameOf.printer(printerId)} ${jobWords[state]}`,
    [nameOf],
  );
  const { found, fields } = useListFilter(jobs.data ?? NONE, words, [nameOf.byPrinter, byState]);
  return (
    <>
      <h1>Jobs</h1>
      <p className="sub">Every program that was sent to a printer over a link.</p>
      {jobs.isLoading && <Loading />}
      {jobs.error && (
        <div className="empty" role="alert">
          The jobs could not be loaded. Is Cuchara still running?
        </div>
      )}
      {jobs.data?.length === 0 && <div className="empty">No job yet. Link a printer and send it a trial.</div>}
      {fields}
      {jobs.data && jobs.data.length > 0 && found.length === 0 && (
        <div className="empty">No job fits. Choose less.</div>
      )}
      <LongList label="Jobs" rows={found} rowPx={ROW_PX} className={`list-row ${styles.row}`} keyOf={({ id }) => id}>
        {(job) => (
          <>
            <b className="long-title">{job.name}</b>
            <PointedLink className="dim" href={`/printer/${job.printerId}?view=job`}>
              {nameOf.printer(job.printerId)}
            </PointedLink>
            <span className="dim">
              {jobWords[job.state]}
              {job.state !== "done" && job.heightMm > 0 && ` at ${plainNumber(job.heightMm, 1)} mm`}
            </span>
            <span className="dim">
              <When at={job.startedAt} format="D MMM, HH:mm" />
              {sayTook(job)}
            </span>
          </>
        )}
      </LongList>
    </>
  );
}
