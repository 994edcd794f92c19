/** Runs tasks in worker threads: two at most, kept for the next task, ended when a task is cancelled. */
import { join } from "node:path";
import { Worker } from "node:worker_threads";
import { databasePath } from "../db/place";
import { Refused } from "../refused";
import type { TaskName, Tasks } from "./catalogue";

const MOST_WORKERS = 2;
/** Requests that may wait for a worker; more are sent away with a sentence. */
const MOST_WAITING = 200;
/** A worker that has had nothing to do for so long gives its memory back, one that had heavy work at once. */
const IDLE_MS = 20_000;
const HEAVY_MS = 2000;

/** A worker without work, and when it will be ended. */
interface Resting {
  worker: Worker;
  timer: ReturnType<typeof setTimeout>;
}

interface Pool {
  idle: Resting[];
  running: number;
  waiting: (() => void)[];
}

const shared = globalThis as { cucharaPool?: Pool };
const pool = () => (shared.cucharaPool ??= { idle: [], running: 0, waiting: [] });

/** A task that was given up because its caller went away. */
export class Cancelled extends Error {}

type Input<N extends TaskName> = Parameters<Tasks[N]>[0];
type Output<N extends TaskName> = ReturnType<Tasks[N]>;

function rest(worker: Worker): void {
  worker.unref();
  const timer = setTimeout(() => {
    pool().idle = pool().idle.filter((resting) => resting.worker !== worker);
    void worker.terminate();
  }, IDLE_MS);
  timer.unref();
  pool().idle.push({ worker, timer });
}

function wake(): Worker | null {
  const resting = pool().idle.pop();
  clearTimeout(resting?.timer);
  return resting?.worker ?? null;
}

/** Ends the workers that rest, with their connections to the database. */
export function endWorkers(): void {
  for (let worker = wake(); worker; worker = wake()) void worker.terminate();
}

/** Runs a task; rejects with `Cancelled` as soon as `signal` fires, and with an `Error` if the task has a bug. */
export async function runTask<N extends TaskName>(
  name: N,
  input: Input<N>,
  options: { signal?: AbortSignal; onProgress?: (share: number) => void; onPart?: (part: unknown) => void } = {},
): Promise<Output<N>> {
  const { signal, onProgress, onPart } = options;
  if (pool().waiting.length >= MOST_WAITING) {
    throw new Refused("busy", "Cuchara has more to compute than it can just now. Try again in a moment.");
  }
  if (pool().running >= MOST_WORKERS) await new Promise<void>((resolve) => pool().waiting.push(resolve));
  pool().running++;
  try {
    if (signal?.aborted) throw new Cancelled();
    const worker =
      wake() ??
      new Worker(join(process.cwd(), ".build", "server-worker.cjs"), { workerData: { databasePath: databasePath() } });
    worker.ref();
    const startedMs = Date.now();
    return await new Promise<Output<N>>((resolve, reject) => {
      const settle = (keep: boolean, act: () => void) => {
        signal?.removeEventListener("abort", onCancel);
        // One by one: taking all listeners off would cut the worker's own line too.
        worker.off("message", onMessage).off("error", onBreak).off("exit", onBreak);
        if (keep && Date.now() - startedMs < HEAVY_MS) rest(worker);
        else void worker.terminate();
        act();
      };
      const onCancel = () => settle(false, () => reject(new Cancelled()));
      const onBreak = (reason: unknown) => {
        settle(false, () =>
          reject(reason instanceof Error ? reason : new Error(`The worker ended with ${String(reason)}.`)),
        );
      };
      const onMessage = (message: { progress?: number; part?: unknown; output?: Output<N>; failure?: string }) => {
        if (message.progress !== undefined) onProgress?.(message.progress);
        else if (message.part !== undefined) onPart?.(message.part);
        else if (message.failure !== undefined) settle(true, () => reject(new Error(message.failure)));
        else settle(true, () => resolve(message.output as Output<N>));
      };
      signal?.addEventListener("abort", onCancel);
      worker.on("message", onMessage).on("error", onBreak).on("exit", onBreak);
      worker.postMessage({ name, input });
    });
  } finally {
    pool().running--;
    pool().waiting.shift()?.();
  }
}
