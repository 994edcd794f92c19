import { z } from "zod";
import { devices } from "@/server/db/devices";
import { rights } from "@/server/who";
import { readBody } from "@/server/http/body";
import { handle, json, pathId } from "@/server/http/respond";
import { missing } from "@/server/refused";

const body = z.object({ may: z.enum(rights, { error: `may is one of ${rights.join(", ")}` }) });

export const PUT = handle(
  async (request, params) => {
    const { may } = await readBody(request, body);
    const id = pathId(params, "device");
    const device = devices.allow(id, may);
    if (!device) throw missing(`There is no device ${id}.`);
    return json(device);
  },
  { who: "bench" },
);

/** Sends it away. */
export const DELETE = handle(
  (_, params) => {
    const id = pathId(params, "device");
    if (!devices.remove(id)) throw missing(`There is no device ${id}.`);
    return json({ id });
  },
  { who: "bench" },
);
