/** A test file on data of its own, with links to simulated printers that are ended and a folder that is taken away behind it. */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { closeStore } from "@/server/db/connection";
import { closeLinks, hub } from "@/server/link/hub";

/** @param name begins the folder's name */
export function onDataOfItsOwn(name: string): string {
  const folder = mkdtempSync(join(tmpdir(), `cuchara-${name}-`));
  process.env.CUCHARA_DATA = folder;
  afterAll(async () => {
    await closeLinks();
    for (const host of hub().hosts.values()) host.stop();
    closeStore();
    rmSync(folder, { recursive: true, force: true });
  });
  return folder;
}
