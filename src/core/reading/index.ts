/** All criteria. A new one is one file and one line here. */
import { Criterion } from "./criterion";
import { blobs } from "./criteria/blobs";
import { bond } from "./criteria/bond";
import { bridge } from "./criteria/bridge";
import { corners } from "./criteria/corners";
import { even } from "./criteria/even";
import { gaps } from "./criteria/gaps";
import { ghosting } from "./criteria/ghosting";
import { overhang } from "./criteria/overhang";
import { strings } from "./criteria/strings";
import { surface } from "./criteria/surface";
import { top } from "./criteria/top";

export const criteria = {
  strings,
  bridge,
  overhang,
  surface,
  corners,
  bond,
  ghosting,
  gaps,
  blobs,
  even,
  top,
} satisfies Record<string, Criterion>;

export type CriterionKey = keyof typeof criteria;

export const criterionKeys = Object.keys(criteria) as [CriterionKey, ...CriterionKey[]];

/** The criterion for a key; typed as the general contract. */
export function criterionFor(key: CriterionKey): Criterion {
  return criteria[key];
}
