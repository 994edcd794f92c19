/** All dialects. A new one is one file and one line here. */
import { deviation } from "./deviation";
import { Dialect } from "./dialect";
import { jerk } from "./jerk";
import { keyword } from "./keyword";
import { minute } from "./minute";
import { valve } from "./valve";

export const dialects = { jerk, deviation, minute, keyword, valve } satisfies Record<string, Dialect>;

export type DialectKey = keyof typeof dialects;

export const dialectKeys = Object.keys(dialects) as [DialectKey, ...DialectKey[]];
