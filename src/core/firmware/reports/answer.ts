/** What kind of answer a received line is. Readers must live with any part missing, in another order, or unknown. */

export type AnswerKind = "ok" | "busy" | "resend" | "error" | "started" | "other";

export interface Answer {
  kind: AnswerKind;
  /** The line number asked for, for `resend`. */
  number?: number;
}

/** Sorts one received line. Common practice, no source. */
export function readAnswer(text: string): Answer {
  const line = text.trim();
  if (/^ok\b/i.test(line)) return { kind: "ok" };
  if (/^(echo:|\/\/)?\s*busy\b/i.test(line)) return { kind: "busy" };
  const resend = /^(?:resend|rs)\s*:?\s*N?\s*(\d+)/i.exec(line);
  if (resend) return { kind: "resend", number: Number(resend[1]) };
  if (/^(error|!!)/i.test(line)) return { kind: "error" };
  if (/^(start|ready)\b/i.test(line)) return { kind: "started" };
  return { kind: "other" };
}
