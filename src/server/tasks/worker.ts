/** Entry of the server's worker thread. Bundled apart from the pages, see `scripts/prepare.mjs`. */
import Database from "better-sqlite3";
import { getHeapStatistics } from "node:v8";
import { parentPort, workerData } from "node:worker_threads";
import { TaskName, tasks, TaskTools } from "./catalogue";

const { databasePath } = workerData as { databasePath: string };
let connection: Database.Database | null = null;

/** What this thread has in memory: its heap, and the buffers behind it. */
function heldBytes(): number {
  const { used_heap_size, external_memory } = getHeapStatistics();
  return used_heap_size + external_memory;
}

parentPort?.on("message", ({ name, input }: { name: TaskName; input: unknown }) => {
  let lastProgress = 0;
  const tools: TaskTools = {
    database: () => (connection ??= new Database(databasePath, { readonly: true })),
    progress(share) {
      if (share - lastProgress < 0.01) return;
      lastProgress = share;
      parentPort?.postMessage({ progress: share });
    },
    tell: (part) => parentPort?.postMessage({ part }),
  };
  const run = async () => (tasks[name] as (input: unknown, tools: TaskTools) => unknown)(input, tools);
  run().then(
    (output) => parentPort?.postMessage({ output, heldBytes: heldBytes() }),
    (error: unknown) => {
      const failure = error instanceof Error ? (error.stack ?? error.message) : String(error);
      parentPort?.postMessage({ failure, heldBytes: heldBytes() });
    },
  );
});
