/** The label of a spool with its code, as a drawing and as PDF. */
import QRCode from "qrcode";
import { Code, Label, labelOf, LabelSize } from "@/core/values/label";
import { kept } from "../db/kept";
import { printers } from "../db/printers";
import { spools } from "../db/spools";
import { Refused } from "../refused";
import { runTask } from "../tasks/pool";
import { checkPair } from "./trials";

/** @param address of the bench as it can be reached from here, like `http://192.168.0.7:4800` */
export function labelFor(printerId: number, spoolId: number, size: LabelSize, address: string): Label {
  checkPair(printerId, spoolId);
  const code = codeOf(`${address}/bench?printerId=${printerId}&spoolId=${spoolId}`);
  return labelOf(size, printers.get(printerId)!, spools.get(spoolId)!, kept.list(printerId, spoolId), code);
}

/** A QR code (ISO/IEC 18004) of medium error correction. */
export function codeOf(text: string): Code {
  const { size, data } = QRCode.create(text, { errorCorrectionLevel: "M" }).modules;
  return Array.from({ length: size }, (_, j) => Array.from({ length: size }, (_, i) => data[j * size + i] === 1));
}

/** The label as PDF, a page of its exact size or a sheet of A4; refused where the font lacks letters of it. */
export async function labelPdf(label: Label, asSheet: boolean, signal: AbortSignal): Promise<Uint8Array> {
  const made = await runTask("labelPdf", { label, asSheet }, { signal });
  if (!made.ok) throw new Refused("unreadable", made.message);
  return made.value;
}
