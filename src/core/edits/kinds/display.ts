/** A text on the printer's screen at every layer, and the progress, in the place of those the file has. */
import { z } from "zod";
import { Finding } from "../../findings/finding";
import { refuse } from "../../result";
import { bitOf } from "../../trace/fields";
import { plainNumber, sayDuration } from "../../units";
import type { LayerReport, ProgramReport } from "../../report/report";
import { EditKind } from "../edit";
import { LineSplices } from "../line-splice";
import { PlaceFinder } from "../scope";

export interface DisplayEdit {
  kind: "display";
  /** `{{file}} {{layer}}/{{layers}}` */
  text: string;
  countsFrom: 0 | 1;
  /** Percent and minutes left, too (M73). */
  progress?: boolean;
}

/** What may stand in double braces. */
export const displayParts = ["file", "layer", "layers", "height", "left", "percent", "nozzle", "fan"] as const;

const schema = z.strictObject({
  kind: z.literal("display"),
  text: z
    .string({ error: "Say what the screen shall show" })
    .max(200, "The text is longer than 200 characters")
    .regex(/^[^\r\n;]*$/, "The text is one line without a semicolon"),
  countsFrom: z
    .union([z.literal(0), z.literal(1)], { error: "Say whether layers count from 0 or from 1 (countsFrom)" })
    .default(1),
  progress: z.boolean().optional(),
}) as unknown as z.ZodType<DisplayEdit>;

const M = 77;

export const display: EditKind<DisplayEdit> = {
  label: "display",
  schema,
  asks: () => ({
    bead(bead) {
      bead.open |= bitOf.shows;
      return true;
    },
    // Behind the last bead of the print nothing is shown anew, but what stood there in its last layer goes.
    end: (end) => void (end.open |= bitOf.shows),
  }),
  placesAlone: true,
  apply({ text, countsFrom, progress = false }, { file, printer, name = "" }) {
    const unknown = [...text.matchAll(/\{\{\s*([^}]*?)\s*\}\}/g)].find(
      ([, part]) => !(displayParts as readonly string[]).includes(part),
    );
    if (unknown) return refuse(`“${unknown[1]}” is nothing a layer knows: it is ${displayParts.join(", ")}.`, "text");
    if (text.trim() === "" && !progress) return refuse("Say what the screen shall show.", "text");
    const { report } = file;
    const { layers, lineEnd } = report;
    const splices = new LineSplices(lineEnd, this.label);
    const place = new PlaceFinder(file);
    file.walk(
      (line) => {
        const code = line.letters[0] === M && line.commandCount > 0 ? line.values[0] : NaN;
        if (!((code === 117 && text.trim() !== "") || (code === 73 && progress))) return;
        place.at(line.number);
        if (place.part === "end") return;
        splices.replace(line, [], place.layer);
      },
      { moves: false },
    );
    let leftS = report.seconds;
    let mended = 0;
    let cut = 0;
    for (const layer of layers) {
      const share = 1 - leftS / Math.max(1e-9, report.seconds);
      const filled = filledFor(layer, leftS, { text, countsFrom }, report, name);
      const shown = onScreen(filled, printer);
      if (shown.length < filled.trim().length) cut++;
      else if (shown !== filled.trim()) mended++;
      const lines = [
        ...(text.trim() === "" ? [] : [`M117 ${shown}`]),
        ...(progress ? [`M73 P${Math.round(share * 100)} R${Math.round(leftS / 60)}`] : []),
      ];
      splices.opening(layer, lines);
      leftS -= layer.seconds;
    }
    return splices.outcome(mendings(mended, cut, printer.name));
  },
};

/** The text with what a layer knows. @param leftS seconds that are left where it opens */
function filledFor(
  { index, zMm }: LayerReport,
  leftS: number,
  { text, countsFrom }: Pick<DisplayEdit, "text" | "countsFrom">,
  { layers, seconds, settings }: ProgramReport,
  name: string,
): string {
  const known: Record<(typeof displayParts)[number], string> = {
    file: name.replace(/\.[^.]*$/, ""),
    layer: String(index + countsFrom),
    layers: String(layers.length - 1 + countsFrom),
    height: plainNumber(zMm, 2),
    left: sayDuration(leftS),
    percent: String(Math.round((1 - leftS / Math.max(1e-9, seconds)) * 100)),
    nozzle: sayValue(settings.nozzleTemperature[index]),
    fan: sayValue(settings.fan[index]),
  };
  return text.replace(/\{\{\s*([^}]*?)\s*\}\}/g, (_, part: string) => known[part as keyof typeof known] ?? "");
}

/** The longest of the texts that the layers of a file come to; layers are asked here and there where there are many. */
export function longestText(
  edit: Pick<DisplayEdit, "text" | "countsFrom">,
  report: ProgramReport,
  name: string,
): string {
  const every = Math.max(1, Math.floor(report.layers.length / MOST_ASKED));
  let longest = "";
  let leftS = report.seconds;
  for (const layer of report.layers) {
    const filled =
      layer.index % every === 0 || layer.index === report.layers.length - 1
        ? filledFor(layer, leftS, edit, report, name)
        : "";
    if (filled.length > longest.length) longest = filled;
    leftS -= layer.seconds;
  }
  return longest;
}

const MOST_ASKED = 200;

/** The text as the printer's screen shows it: in letters it has, no longer than it is. */
export function onScreen(
  text: string,
  { screenLetters, screenLacks }: { screenLetters: number; screenLacks: string },
): string {
  const lacks = new Set(screenLacks);
  const letters = Array.from(text.normalize("NFD").replace(/\p{M}/gu, ""), (letter) => {
    if (letter === ":" && lacks.has(":")) return ".";
    if (letter === "°" || letter === "%") return lacks.has(letter) ? "" : letter === "°" ? "" : letter;
    return letter < " " || letter > "~" || lacks.has(letter) ? "?" : letter;
  }).join("");
  return (screenLetters > 0 ? letters.slice(0, screenLetters) : letters).trim();
}

const sayValue = (value: number | null | undefined) => (value == null ? "" : plainNumber(value, 1));

function mendings(mended: number, cut: number, printer: string): Finding[] {
  const note = (check: string, message: string): Finding => ({ check, severity: "note", where: "whole file", message });
  return [
    ...(cut > 0
      ? [note("text-cut", `The screen of ${printer} is shorter than the text: ${cut} times its end is cut off.`)]
      : []),
    ...(mended > 0
      ? [note("text-mended", `Characters that the screen of ${printer} does not have are replaced by others.`)]
      : []),
  ];
}
