"use client";
/** Says that a job did not end well: what it was, where it stopped, and in what state it left the printer. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import type { JobRecord } from "@/core/link/state";
import { isHeating } from "@/core/machine/state";
import { plainNumber } from "@/core/units";
import { api } from "../common/api";
import { usePrinters } from "../common/queries";
import { keys } from "../common/keys";
import { useTell } from "../common/talk";
import styles from "./broken-jobs.module.css";

/** What the printer was last told, in words. */
function leftAs({ told }: JobRecord): string {
  const nozzles = told.nozzleC.map((target, tool) =>
    target > 0 ? `nozzle${told.nozzleC.length > 1 ? ` ${tool + 1}` : ""} at ${plainNumber(target)} °C` : null,
  );
  const hot = [...nozzles, told.bedC > 0 ? `bed at ${plainNumber(told.bedC)} °C` : null].filter((one) => one !== null);
  const fans = told.fanDuty.some((duty) => duty > 0) ? "the part fan on" : null;
  const parts = [...hot, fans].filter((one) => one !== null);
  if (!isHeating(told)) return `It was last told: heaters off${fans ? ", the part fan on" : ""}.`;
  return `It was last told: ${parts.join(", ")}. A printer that was not switched off may still be hot.`;
}

export function BrokenJobs({ printerId }: { printerId?: number }) {
  const client = useQueryClient();
  const tell = useTell();
  const printers = usePrinters().data ?? [];
  const jobs = useQuery({ queryKey: keys.brokenJobs, queryFn: () => api.get<JobRecord[]>("/link/jobs") }).data ?? [];
  const shown = jobs.filter((job) => printerId === undefined || job.printerId === printerId);
  const see = async (jobId: number) => {
    try {
      await api.post("/link/jobs", { jobId });
      await client.invalidateQueries({ queryKey: keys.brokenJobs });
    } catch (error) {
      tell.error(error);
    }
  };
  return shown.map((job) => (
    <div key={job.id} className={`card finding stop ${styles.broken}`} role="alert">
      <b>
        “{job.name}” on {printers.find(({ id }) => id === job.printerId)?.name ?? "a printer"} did not end.
      </b>{" "}
      {job.why} It stopped at line {job.linesTaken.toLocaleString("en")} of {job.totalLines.toLocaleString("en")}
      {job.heightMm > 0 ? `, ${plainNumber(job.heightMm)} mm up` : ", before the first layer"}. {leftAs(job)} Nothing is
      resumed by itself.{" "}
      <button className="link-button" onClick={() => void see(job.id)}>
        I have seen it
      </button>
    </div>
  ));
}
