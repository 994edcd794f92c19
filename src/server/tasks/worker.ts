/** Entry of the server's worker thread. Bundled apart from the pages, see `scripts/build.mjs`. */
import Database from "better-sqlite3";
import { parentPort, workerData } from "node:worker_threads";
import { TaskName, tasks, TaskTools } from "./catalogue";

const { databasePath } = workerData as { databasePath: string };
let connection: Database.Database | null = null;

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
  try {
    const output = (tasks[name] as (input: unknown, tools: TaskTools) => unknown)(input, tools);
    parentPort?.postMessage({ output });
  } catch (error) {
    parentPort?.postMessage({ failure: error instanceof Error ? (error.stack ?? error.message) : String(error) });
  }
});
