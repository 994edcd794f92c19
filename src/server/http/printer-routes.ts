import { printerSchema } from "@/core/shelf/printer-schema";
import { printers } from "../db/printers";
import { followShelf, guardChange, guardRemoval } from "../link/hub";
import { shelfRoutes } from "./shelf-routes";

export const printerRoutes = shelfRoutes(printers, printerSchema, "printer", {
  change: guardChange,
  remove: guardRemoval,
  changed: followShelf,
});
