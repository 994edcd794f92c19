/** Two files as one print: where that is offered, and the way to it. */
import type { FilePageState } from "./use-file-page";

/** The card it is done in. */
export const MERGE_ID = "two-materials";

/** Where another file can become one print with a file: it is of one tool, and a printer on the shelf has two. */
export const canMerge = ({ report }: Pick<FilePageState, "report">, printers: readonly { tools: number }[]): boolean =>
  report.filament.length === 1 && printers.some(({ tools }) => tools > 1);

/** Goes to the card by keyboard and eye. */
export function goToMerge(): void {
  const card = document.getElementById(MERGE_ID);
  card?.scrollIntoView({ block: "center" });
  card?.focus();
}
