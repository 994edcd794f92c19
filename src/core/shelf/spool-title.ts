import type { Spool } from "./spool";

/** `Larkfield PLA Saffron`: maker, material and colour, or the spool's own name where they are not known. */
export function spoolTitle(spool: Pick<Spool, "maker" | "name">): string {
  return [spool.maker, spool.name].filter(Boolean).join(" ");
}
