/** Everything a simulated printer can be told. A new subject is one file and one line here. */
import { Handlers } from "./handler";
import { heatHandlers } from "./heat";
import { motionHandlers } from "./motion";
import { talkHandlers } from "./talk";

export const handlers: Handlers = { ...motionHandlers, ...heatHandlers, ...talkHandlers };
