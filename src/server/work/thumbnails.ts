/** Small pictures of what lists show: made in a worker when they are first asked for, then kept in the database. */
import type { Thumbnail } from "@/core/laid/thumbnail";
import { exampleSheets } from "@/core/sheets/examples";
import type { SheetInput } from "@/core/sheets/program";
import type { Trial } from "@/core/trials/trial";
import { readBench } from "../db/bench";
import type { StoredFile } from "../db/files";
import { ThumbnailSubject, thumbnails } from "../db/thumbnails";
import { Refused } from "../refused";
import { runTask } from "../tasks/pool";
import { lookInput, printerFor } from "./files";
import { madeOf } from "./made-of";
import { sheetInput } from "./sheets";
import { inputFor } from "./trials";

/** What is being made now, so that two who ask at once have it made once. */
const shared = globalThis as {
  cucharaThumbnails?: Map<string, Promise<string>>;
  cucharaThumbnailTurn?: Promise<unknown>;
};
const inMaking = () => (shared.cucharaThumbnails ??= new Map());

/** Pictures are made one after the other, so that a list of large files leaves a worker to those who wait for their work. */
function inTurn<T>(make: () => Promise<T>): Promise<T> {
  const turn = (shared.cucharaThumbnailTurn ?? Promise.resolve()).then(make, make);
  shared.cucharaThumbnailTurn = turn.catch(() => undefined);
  return turn;
}

/** The kept picture of a subject as JSON text, or a new one where what it was made of has changed. */
async function kept(
  subject: ThumbnailSubject,
  id: number,
  of: unknown,
  make: () => Promise<Thumbnail>,
): Promise<string> {
  const made = madeOf(of);
  const known = thumbnails.get(subject, id, made);
  if (known !== null) return known;
  const begun = inMaking().get(made);
  if (begun) return begun;
  const making = inTurn(make).then((picture) => {
    const text = JSON.stringify(picture);
    thumbnails.put(subject, id, made, text);
    return text;
  });
  inMaking().set(made, making);
  return making.finally(() => inMaking().delete(made));
}

/** The picture of a trial's piece; refused if its printer or spool is gone. */
export function thumbnailOfTrial(trial: Trial): Promise<string> {
  const input = inputFor(trial);
  return kept("trial", trial.id, input, () => runTask("thumbnailOfTrial", input));
}

/** The picture of an opened file as it came. */
export function thumbnailOfFile(file: StoredFile): Promise<string> {
  const input = { ...lookInput(file, false), printer: printerFor(file) };
  // Edits leave the file as it came; only what is written here can become another.
  const of = [file.id, file.written ? file.version : null, input.printer];
  return kept("file", file.id, of, () => runTask("thumbnailOfFile", input));
}

/** The picture of a sheet; refused with row and field where it cannot be laid. */
export function thumbnailOfSheet(id: number, input: SheetInput): Promise<string> {
  return kept("sheet", id, input, () => sheetPicture(input));
}

async function sheetPicture(input: SheetInput): Promise<Thumbnail> {
  const made = await runTask("thumbnailOfSheet", input);
  if (!made.ok) throw new Refused("unreadable", made.message, { field: made.field });
  return made.value;
}

/** A sheet that ships, and how it looks; null where it cannot be laid for the pair on the bench, or where that is empty. */
export interface ExampleSheet {
  name: string;
  thumbnail: Thumbnail | null;
}

/** The sheets that ship, in their order, as they look with the pair on the bench. */
export function examplesWithPictures(): Promise<ExampleSheet[]> {
  const { printerId, spoolId } = readBench();
  const isEmpty = printerId === null || spoolId === null;
  return Promise.all(
    exampleSheets.map(async (sheet, i) => {
      if (isEmpty) return { name: sheet.name, thumbnail: null };
      const { printer, spool } = sheetInput(sheet, {});
      const input = { sheet, printer, spool };
      const text = await kept("example", i, input, () => sheetPicture(input)).catch(() => "null");
      return { name: sheet.name, thumbnail: JSON.parse(text) as Thumbnail | null };
    }),
  );
}
