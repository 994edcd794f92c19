/** Everything in one file: a copy of it made while the program runs, and one put in its place. */
import { createReadStream, existsSync, mkdirSync, rmSync, statSync } from "node:fs";
import { open } from "node:fs/promises";
import { join } from "node:path";
import { Readable } from "node:stream";
import { tellAll } from "../changes";
import { closeStore, database, databaseTrouble } from "../db/connection";
import { DeviceRow, devices } from "../db/devices";
import { dayOf } from "../db/link-events";
import { databasePath, dataFolder } from "../db/place";
import { freeBytes, needRoom } from "../db/room";
import { swapBack, swapIn, sweep } from "../db/swap";
import { closeLinks, forgetHub, runningJobs } from "../link/hub";
import { log } from "../log";
import { Refused } from "../refused";
import { endWorkers, runTask } from "../tasks/pool";

const sizeOf = (path: string) => (existsSync(path) ? statSync(path).size : 0);

/** Where the data lie and how large they are. */
export function programSizes() {
  return {
    data: databasePath(),
    dataBytes: sizeOf(databasePath()) + sizeOf(`${databasePath()}-wal`),
    freeBytes: freeBytes(),
  };
}

// One copy at a time: each needs as much room as everything there is.
const shared = globalThis as { cucharaCopying?: boolean };

function claimCopying(): () => void {
  if (shared.cucharaCopying)
    throw new Refused("busy", "A backup is being made or put in place already. Wait until it is done.");
  shared.cucharaCopying = true;
  return () => (shared.cucharaCopying = false);
}

/** A whole copy as it is at this moment; the program goes on meanwhile. */
export async function backupStream(signal: AbortSignal) {
  database();
  const free = claimCopying();
  const path = join(dataFolder(), `copying-${process.pid}.db`);
  const done = () => {
    rmSync(path, { force: true });
    free();
  };
  try {
    sweep("copying");
    needRoom(sizeOf(databasePath()) + sizeOf(`${databasePath()}-wal`));
    await runTask("backup", { path }, { signal });
    const stream = createReadStream(path);
    stream.once("close", done);
    signal.addEventListener("abort", () => stream.destroy());
    return {
      body: Readable.toWeb(stream) as ReadableStream<Uint8Array>,
      sizeBytes: statSync(path).size,
      name: `cuchara-backup-${dayOf(Date.now())}.db`,
    };
  } catch (error) {
    done();
    throw error;
  }
}

/**
 * Takes a backup, looks whether it is whole and of a version this program knows, and puts it in place of what there is, which is kept
 * beside it under the name that is given back. Anything wrong, and nothing is changed.
 */
export async function restoreFrom(request: Request): Promise<{ kept: string | null }> {
  const trouble = databaseTrouble();
  if (trouble?.startsWith("Another Cuchara")) throw new Refused("storage", trouble);
  const free = claimCopying();
  const path = join(dataFolder(), `receiving-${process.pid}.db`);
  try {
    mkdirSync(dataFolder(), { recursive: true });
    sweep("receiving");
    needRoom(Number(request.headers.get("content-length") ?? 0));
    await receive(request, path);
    const { signal } = request;
    const checked = await runTask("checkBackup", { path }, { signal });
    if (!checked.ok) throw new Refused("unreadable", checked.message);
    await runTask("readyBackup", { path, devices: devicesNow() }, { signal });
    refuseWhileRunning();
    return { kept: await putInPlace(path) };
  } finally {
    rmSync(path, { force: true });
    free();
  }
}

/** Puts an empty database in place of what there is, which is kept beside it under the name that is given back. Who is let in stays. */
export async function beginEmpty(signal: AbortSignal): Promise<{ kept: string | null }> {
  database();
  const free = claimCopying();
  const path = join(dataFolder(), `receiving-${process.pid}.db`);
  try {
    sweep("receiving");
    needRoom(0);
    await runTask("readyBackup", { path, devices: devicesNow() }, { signal });
    refuseWhileRunning();
    return { kept: await putInPlace(path) };
  } finally {
    rmSync(path, { force: true });
    free();
  }
}

function refuseWhileRunning(): void {
  if (runningJobs() === 0) return;
  throw new Refused("conflict", "A job is running. Cancel it, or wait until it is done, before the data is replaced.");
}

async function receive(request: Request, path: string): Promise<void> {
  const file = await open(path, "w");
  try {
    let bytes = 0;
    for await (const chunk of (request.body ?? []) as unknown as AsyncIterable<Uint8Array>) {
      await file.write(chunk);
      const before = bytes;
      bytes += chunk.length;
      if (bytes >> 23 !== before >> 23) needRoom(0);
    }
    await file.sync();
  } finally {
    await file.close();
  }
}

/** The devices that are let in; none where the database cannot be read. */
function devicesNow(): DeviceRow[] {
  try {
    return devices.rows();
  } catch {
    return [];
  }
}

async function putInPlace(path: string): Promise<string | null> {
  await closeLinks();
  endWorkers();
  closeStore();
  const kept = swapIn(path);
  try {
    database();
  } catch (error) {
    // It passed the check and still cannot be used: back to what was there.
    swapBack(kept);
    throw error;
  } finally {
    forgetHub();
    tellAll();
  }
  log().warn({ kept }, "other data was put in place");
  return kept;
}
