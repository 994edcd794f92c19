/** What the simulated printer does at a command besides its effect on the state. A new subject is one file and one line here. */
import type { Handlers } from "../parts";
import { heatHandlers } from "./heat";
import { motionHandlers } from "./motion";
import { personHandlers } from "./person";
import { talkHandlers } from "./talk";

export const handlers: Handlers = { ...motionHandlers, ...heatHandlers, ...personHandlers, ...talkHandlers };
