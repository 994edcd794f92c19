/** The names under which answers are kept, in one place: what is fetched under one of them is looked at anew under the same. */

export const keys = {
  printers: ["printers"],
  spools: ["spools"],
  bench: ["bench"],
  benchRows: (printerId: number, spoolId: number) => ["bench-rows", printerId, spoolId],
  trials: ["trials"],
  trial: (id: number) => ["trial", id],
  kept: ["kept"],
  keptOf: (printerId: number, spoolId: number) => ["kept", printerId, spoolId],
  files: ["files"],
  file: (id: number) => ["file", id],
  fileReport: (id: number) => ["file-report", id],
  fileEdits: (id: number) => ["file-edits", id],
  fileProof: (id: number, version: string | null) => ["file-proof", id, version],
  links: ["links"],
  ports: ["ports"],
  firmware: (printerId: number) => ["firmware", printerId],
  measurements: ["measurements"],
  measurementsOf: (printerId: number) => ["measurements", printerId],
  job: (printerId: number, jobId?: number) => (jobId === undefined ? ["job", printerId] : ["job", printerId, jobId]),
  jobs: (printerId: number) => ["jobs", printerId],
  brokenJobs: ["broken-jobs"],
  look: (printerId: number, spoolId: number | undefined) => ["look", printerId, spoolId],
  linkDays: (printerId: number) => ["link-days", printerId],
  linkDay: (printerId: number, day: string | null, all: boolean) => ["link-day", printerId, day, all],
  snippets: ["snippets"],
  program: ["program"],
  devices: ["devices"],
} as const;

/** What is looked at anew when a record of a kind was changed somewhere. */
export const keysOf: Record<string, (id: number) => readonly (readonly unknown[])[]> = {
  printers: () => [keys.printers, ["bench-rows"]],
  spools: () => [keys.spools, ["bench-rows"]],
  bench: () => [keys.bench],
  trials: (id) => [keys.trials, keys.trial(id), ["bench-rows"]],
  files: (id) => [keys.files, keys.file(id), keys.fileEdits(id)],
  kept: () => [keys.kept, ["bench-rows"]],
  measurements: () => [keys.measurements, ["bench-rows"]],
  devices: () => [keys.devices],
  preferences: () => [keys.program],
};
