/** Files to be saved: names that any system can store, whole and with their ending. */

/** Letters of a name in front of its ending. */
const LONGEST_STEM = 80;

/** Names that one system or another keeps for devices. */
const deviceName = /^(con|prn|aux|nul|com\d|lpt\d)$/i;

/**
 * A name that can be stored: other letters than those of words, figures and ` ._-` become a dash, the stem is cut between whole
 * characters, and the ending stays.
 */
export function fileName(name: string): string {
  const [, whole, ending] = /^(.*?)(\.[A-Za-z0-9]{1,8})?$/su.exec(name)!;
  const plain = whole.replace(/[^\p{L}\p{N} ._-]+/gu, "-");
  const stem = Array.from(plain)
    .slice(0, LONGEST_STEM)
    .join("")
    .replace(/^[ .-]+|[ .-]+$/g, "");
  return `${stem === "" || deviceName.test(stem) ? `program${stem}` : stem}${ending ?? ""}`;
}

/** The header that names a download (RFC 6266), in plain letters and, for those that read it, in all (RFC 8187). */
export function disposition(name: string): string {
  const whole = fileName(name);
  const plain = whole.replace(/[^\x20-\x7e]/g, "_");
  return `attachment; filename="${plain}"; filename*=UTF-8''${encodeURIComponent(whole)}`;
}

/** Headers of a program that is to be saved. */
export function attachment(name: string, sizeBytes?: number): Record<string, string> {
  return {
    "Content-Type": "text/x.gcode; charset=utf-8",
    "Content-Disposition": disposition(name),
    "Cache-Control": "no-store",
    ...(sizeBytes === undefined ? {} : { "Content-Length": String(sizeBytes) }),
  };
}
