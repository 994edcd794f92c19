/** What happened, kept in the data folder: one file, and the few before it. */
import { mkdirSync, renameSync, statSync } from "node:fs";
import { dirname, join } from "node:path";
import pino, { Logger } from "pino";
import { dataFolder } from "./db/place";

/** A log file is put aside when it is so large, and so many of them are kept. */
const LARGEST_BYTES = 2_000_000;
const KEPT_FILES = 4;
/** Looked at after so many entries. */
const LOOK_EVERY = 200;

/** Where the log is. */
export function logPath(): string {
  return join(dataFolder(), "log", "cuchara.log");
}

function rotate(path: string): void {
  try {
    if (statSync(path).size < LARGEST_BYTES) return;
    for (let number = KEPT_FILES - 1; number >= 1; number--) {
      try {
        renameSync(`${path}.${number}`, `${path}.${number + 1}`);
      } catch {
        // There are not so many yet.
      }
    }
    renameSync(path, `${path}.1`);
  } catch {
    // There is none yet, or it cannot be moved: then it grows on.
  }
}

/** A place to write to that puts the file aside when it has grown. Where no file can be written, entries go to the terminal. */
function destination(path: string): { write(entry: string): void } {
  const open = () => {
    mkdirSync(dirname(path), { recursive: true });
    rotate(path);
    return pino.destination({ dest: path, sync: true, append: true });
  };
  try {
    let file = open();
    let entries = 0;
    return {
      write(entry) {
        try {
          if (++entries % LOOK_EVERY === 0 && statSync(path).size > LARGEST_BYTES) {
            file.end();
            file = open();
          }
          file.write(entry);
        } catch {
          process.stderr.write(entry);
        }
      },
    };
  } catch {
    return process.stderr;
  }
}

// One log per process: route handlers are loaded apart from one another.
const shared = globalThis as { cucharaLog?: Logger };

export function log(): Logger {
  return (shared.cucharaLog ??= pino(
    {
      name: "cuchara",
      level: process.env.CUCHARA_LOG ?? "info",
      base: undefined,
      timestamp: pino.stdTimeFunctions.isoTime,
    },
    destination(logPath()),
  ));
}
