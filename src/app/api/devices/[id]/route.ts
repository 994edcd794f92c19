import { z } from "zod";
import { devices } from "@/server/db/devices";
import { readBody } from "@/server/http/body";
import { handle, json, pathId } from "@/server/http/respond";
import { missing } from "@/server/refused";

const body = z.object({ mayAct: z.boolean({ error: "mayAct is true or false" }) });

export const PUT = handle(async (request, params) => {
  const { mayAct } = await readBody(request, body);
  const id = pathId(params, "device");
  const device = devices.allow(id, mayAct);
  if (!device) throw missing(`There is no device ${id}.`);
  return json(device);
});

/** Sends it away. */
export const DELETE = handle((_, params) => {
  const id = pathId(params, "device");
  if (!devices.remove(id)) throw missing(`There is no device ${id}.`);
  return json({ id });
});
