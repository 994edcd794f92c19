/** A short name for everything that something was made of: another as soon as anything of it has changed, the program included. */
import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { workerFile } from "../tasks/pool";

const digest = (of: string | Buffer) => createHash("sha256").update(of).digest("base64url");

let program: string | undefined;

/** SHA-256 (FIPS 180-4) of what is given, as JSON, and of the program that makes things of it. */
export function madeOf(...of: unknown[]): string {
  program ??= digest(readFileSync(workerFile()));
  return digest(JSON.stringify([program, ...of]));
}
