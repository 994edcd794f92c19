/** Room on the disk: what is asked for must leave some. */
import { statfsSync } from "node:fs";
import { Refused } from "../refused";
import { dataFolder } from "./place";

/** Kept free on the disk, whatever is asked for: a job's talk and the ends of saves need it. */
const RESERVE_BYTES = 20_000_000;

/** What is free for this user where the data lie. */
export function freeBytes(): number {
  const { bavail, bsize } = statfsSync(dataFolder());
  return bavail * bsize;
}

/** Refuses what the disk has no room for. */
export function needRoom(bytes: number): void {
  const free = freeBytes();
  if (free >= bytes + RESERVE_BYTES) return;
  const mb = (size: number) => Math.max(0, Math.round(size / 1e6));
  throw new Refused(
    "storage",
    `The disk has ${mb(free)} MB left; this needs ${mb(bytes)} MB and ${mb(RESERVE_BYTES)} MB stay free. Make room, then try again.`,
  );
}
