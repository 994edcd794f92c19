import type { Printer } from "@/core/shelf/printer";
import { printerSchema } from "@/core/shelf/printer-schema";
import { printers } from "../db/printers";
import { followShelf, guardChange, guardRemoval } from "../link/hub";
import { shelfRoutes } from "./shelf-routes";

export const printerRoutes = shelfRoutes(printers, printerSchema, "printer", {
  change: guardChange,
  remove: guardRemoval,
  mend: withOwnHand,
  changed: followShelf,
});

/** A figure that was changed by hand is not the firmware's own any more, until the firmware says it again. */
function withOwnHand(before: Printer, after: Printer): Printer {
  const isSame = (field: string) => before[field as keyof Printer] === after[field as keyof Printer];
  const firmwareOwn = Object.fromEntries(
    Object.entries(after.firmwareOwn).filter(([field, at]) => isSame(field) || at !== before.firmwareOwn[field]),
  );
  return { ...after, firmwareOwn };
}
