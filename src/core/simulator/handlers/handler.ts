import { TalkLine } from "../../firmware/commands/line";
import type { SimulatedPrinter, Wait } from "../machine";

/** Carries out one command; what it returns must be over before `ok` is said. `"unknown"`: this printer does not know it. */
export type Handler = (machine: SimulatedPrinter, line: TalkLine) => Wait | void | "unknown";

export type Handlers = Record<string, Handler>;
