/** The demo database: five printers, six spools, two trials, a piece to be read, three opened files. */
import { readChunks } from "@/core/edits/see-file";
import { exampleSheets } from "@/core/sheets/examples";
import { printerSchema } from "@/core/shelf/printer-schema";
import { spoolSchema } from "@/core/shelf/spool-schema";
import { buildTrial } from "@/core/trials/build";
import { Trial } from "@/core/trials/trial";
import { newTrialSchema } from "@/core/trials/trial-schema";
import { writeBench } from "../db/bench";
import { CHUNK_BYTES, files } from "../db/files";
import { writePreferences } from "../db/preferences";
import { printers } from "../db/printers";
import { sheets } from "../db/sheets";
import { spools } from "../db/spools";
import { trials } from "../db/trials";
import { tasks } from "../tasks/catalogue";
import { addRunOfCard } from "../work/runs";
import { firstTrial } from "../work/trials";
import { storedReport } from "../tasks/stored-report";
import { tellStory } from "./story";
import { demoFiles } from "./sliced-files";
import { demoPrinters, demoSpools } from "./scenario";

/** What the first printer's extruder really feeds of what it is asked for. */
const DEMO_FEED_SHARE = 0.973;

/**
 * Adds the whole scenario to the database in use.
 *
 * @param hasStory whether it has been worked at for weeks; without, nothing is asked yet but two trials
 */
export async function makeDemo(hasStory: boolean): Promise<void> {
  const madePrinters = demoPrinters.map((printer) => printers.add(printerSchema.parse(printer)));
  const madeSpools = demoSpools.map((spool) => spools.add(spoolSchema.parse(spool)));
  writeBench({ printerId: madePrinters[0].id, spoolId: madeSpools[0].id });
  const addTrial = (printer: number, spool: number): Trial =>
    trials.add(
      firstTrial(
        newTrialSchema.parse({
          kind: "temperature",
          printerId: madePrinters[printer].id,
          spoolId: madeSpools[spool].id,
        }),
      ),
    );
  const tower = addTrial(0, 2);
  addTrial(0, 0);
  // One piece lies on the table already, made by a simulated printer, and waits to be read.
  const input = { trial: tower, printer: madePrinters[0], spool: madeSpools[2] };
  addRunOfCard(input, tasks.runFacts(input), { note: "Printed for the marble run" }, DEMO_FEED_SHARE);
  const built = buildTrial(input);
  for (const { name, bytes } of [{ name: "bottle-green-tower.gcode", bytes: built.bytes }, ...demoFiles()]) {
    storeFile(name, bytes, madePrinters[0].id);
  }
  if (!hasStory) return;
  for (const sheet of [exampleSheets[0], exampleSheets[1]])
    sheets.add({ ...sheet, name: `${sheet.name}, for the tiles` });
  await tellStory({
    ...{ printer: madePrinters[0], feedShare: DEMO_FEED_SHARE },
    ...{ finished: madeSpools[0], middle: madeSpools[2] },
  });
  writeBench({ printerId: madePrinters[0].id, spoolId: madeSpools[2].id });
  writePreferences({ isDemo: true });
}

function storeFile(name: string, bytes: Uint8Array, printerId: number): void {
  const id = files.begin(name, printerId);
  for (let at = 0; at < bytes.length; at += CHUNK_BYTES) files.append(id, at, bytes.subarray(at, at + CHUNK_BYTES));
  const printer = printers.get(printerId)!;
  files.finish(id, bytes.length, storedReport(readChunks([bytes], printer), printer));
}
