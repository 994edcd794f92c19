/** A personality for each dialect. A new one is one file and one line here. */
import type { DialectKey } from "../../machine/dialects";
import { Personality } from "../personality";
import { kettle } from "./kettle";
import { ladle } from "./ladle";
import { sieve } from "./sieve";
import { twin } from "./twin";
import { whisk } from "./whisk";

export const personalities: Record<DialectKey, Personality> = {
  jerk: ladle,
  deviation: whisk,
  minute: twin,
  valve: kettle,
  keyword: sieve,
};
