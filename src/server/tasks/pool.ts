/**
 * Runs tasks in worker threads, two at most. A worker is kept for the next task and ended when its task is cancelled, takes longer than it
 * may, or leaves too much in memory. What a caller can make arbitrarily long gets one worker at a time, so that the other is there for
 * everybody.
 */
import { join } from "node:path";
import { Worker } from "node:worker_threads";
import { databasePath } from "../db/place";
import { Refused } from "../refused";
import { boundOf } from "./bounds";
import type { TaskName, Tasks } from "./catalogue";

const MOST_WORKERS = 2;
/** Requests that may wait for a worker; more are sent away with a sentence. */
const MOST_WAITING = 200;
/** A worker that has had nothing to do for so long gives its memory back … */
const IDLE_MS = 60_000;
/** … and one that holds more than this sooner: it may hold a large file that is looked at again in a moment. */
const LARGE_BYTES = 200e6;
const LARGE_IDLE_MS = 20_000;
/** More than this no worker holds without work. */
const MOST_BYTES = 1.5e9;

/** A worker without work: what it holds, and when it will be ended. */
interface Resting {
  worker: Worker;
  holds: string | null;
  timer: ReturnType<typeof setInterval>;
}

interface Waiting {
  isLong: boolean;
  start(): void;
}

interface Pool {
  idle: Resting[];
  running: number;
  long: number;
  waiting: Waiting[];
}

const shared = globalThis as { cucharaPool?: Pool };
const pool = () => (shared.cucharaPool ??= { idle: [], running: 0, long: 0, waiting: [] });

/** A task that was given up because its caller went away. */
export class Cancelled extends Error {}

type Input<N extends TaskName> = Parameters<Tasks[N]>[0];
type Output<N extends TaskName> = Awaited<ReturnType<Tasks[N]>>;

export interface TaskOptions {
  signal?: AbortSignal;
  onProgress?: (share: number) => void;
  onPart?: (part: unknown) => void;
  /** What the worker that did this before still holds: it is asked first. */
  holds?: string;
}

function rest(worker: Worker, holds: string | null, heldBytes: number): void {
  if (heldBytes > MOST_BYTES) return void worker.terminate();
  worker.unref();
  const isLarge = heldBytes > LARGE_BYTES;
  const timer = setInterval(
    () => {
      // One stays: it is warm, and the next task need not wait until it is loaded.
      if (!isLarge && pool().idle.length === 1) return;
      clearInterval(timer);
      pool().idle = pool().idle.filter((resting) => resting.worker !== worker);
      void worker.terminate();
    },
    isLarge ? LARGE_IDLE_MS : IDLE_MS,
  );
  timer.unref();
  pool().idle.push({ worker, holds, timer });
}

/** A worker that rests: the one that holds what is wanted, else the one that holds nothing, else any. */
function wake(holds: string | null): Worker | null {
  const { idle } = pool();
  const resting =
    idle.find((one) => holds !== null && one.holds === holds) ?? idle.find((one) => one.holds === null) ?? idle.at(-1);
  if (!resting) return null;
  pool().idle = idle.filter((one) => one !== resting);
  clearInterval(resting.timer);
  return resting.worker;
}

/** Ends the workers that rest, with their connections to the database. */
export function endWorkers(): void {
  for (let worker = wake(null); worker; worker = wake(null)) void worker.terminate();
}

const hasRoom = (isLong: boolean) => {
  const { running, long } = pool();
  return running < MOST_WORKERS && (!isLong || long < MOST_WORKERS - 1);
};

async function takeTurn(isLong: boolean): Promise<void> {
  if (pool().waiting.length >= MOST_WAITING) {
    throw new Refused("busy", "Cuchara has more to compute than it can just now. Try again in a moment.");
  }
  if (!hasRoom(isLong)) await new Promise<void>((start) => pool().waiting.push({ isLong, start }));
  pool().running++;
  if (isLong) pool().long++;
}

function giveTurn(isLong: boolean): void {
  pool().running--;
  if (isLong) pool().long--;
  const next = pool().waiting.findIndex((waiting) => hasRoom(waiting.isLong));
  if (next >= 0) pool().waiting.splice(next, 1)[0].start();
}

/** What a worker says of a task. */
interface Message<N extends TaskName> {
  progress?: number;
  part?: unknown;
  output?: Output<N>;
  failure?: string;
  /** What it has in memory at the end. */
  heldBytes?: number;
}

/** What workers run: all of the computation, compiled into one file. */
export const workerFile = () => join(process.cwd(), ".build", "server-worker.cjs");

/**
 * Runs a task; rejects with `Cancelled` as soon as `signal` fires, is refused where it takes longer than its bound, and rejects with an
 * `Error` if the task has a bug.
 */
export async function runTask<N extends TaskName>(
  name: N,
  input: Input<N>,
  { signal, onProgress, onPart, holds }: TaskOptions = {},
): Promise<Output<N>> {
  const bound = boundOf(input);
  await takeTurn(bound !== undefined);
  try {
    if (signal?.aborted) throw new Cancelled();
    const worker = wake(holds ?? null) ?? new Worker(workerFile(), { workerData: { databasePath: databasePath() } });
    worker.ref();
    return await new Promise<Output<N>>((resolve, reject) => {
      const settle = (heldBytes: number | null, act: () => void) => {
        signal?.removeEventListener("abort", onCancel);
        clearTimeout(timer);
        // One by one: taking all listeners off would cut the worker's own line too.
        worker.off("message", onMessage).off("error", onBreak).off("exit", onBreak);
        if (heldBytes === null) void worker.terminate();
        else rest(worker, holds ?? null, heldBytes);
        act();
      };
      const onCancel = () => settle(null, () => reject(new Cancelled()));
      const onBreak = (reason: unknown) => {
        settle(null, () =>
          reject(reason instanceof Error ? reason : new Error(`The worker ended with ${String(reason)}.`)),
        );
      };
      const onMessage = ({ progress, part, output, failure, heldBytes = 0 }: Message<N>) => {
        if (progress !== undefined) onProgress?.(progress);
        else if (part !== undefined) {
          try {
            onPart?.(part);
          } catch (error) {
            // Whoever takes the parts cannot: no disk for them, say. The rest is not needed.
            settle(null, () => reject(error as Error));
          }
        } else if (failure !== undefined) settle(heldBytes, () => reject(new Error(failure)));
        else settle(heldBytes, () => resolve(output as Output<N>));
      };
      const timer =
        bound &&
        setTimeout(
          () => settle(null, () => reject(new Refused("invalid", bound.sentence, { field: bound.field }))),
          bound.withinMs,
        );
      signal?.addEventListener("abort", onCancel);
      worker.on("message", onMessage).on("error", onBreak).on("exit", onBreak);
      worker.postMessage({ name, input });
    });
  } finally {
    giveTurn(bound !== undefined);
  }
}
