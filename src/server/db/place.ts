/** Where the user's data lie. */
import { homedir } from "node:os";
import { join } from "node:path";

/** Folder of the user's data: `CUCHARA_DATA`, or `.cuchara` in the home directory. */
export function dataFolder(): string {
  return process.env.CUCHARA_DATA || join(homedir(), ".cuchara");
}

export function databasePath(): string {
  return join(dataFolder(), "cuchara.db");
}
