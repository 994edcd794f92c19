import { z } from "zod";
import { printerBody } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { linkOf } from "@/server/link/hub";

const body = printerBody.extend({
  act: z.enum(["clear", "go-on", "forget-unsent"], { error: "The act is clear, go-on or forget-unsent" }),
});

export const POST = handle(
  async (request) => {
    const { printerId, act } = await readBody(request, body);
    const link = linkOf(printerId);
    if (act === "clear") link.session.clearQueue();
    else if (act === "go-on") link.session.goOn();
    else link.session.forgetUnsent();
    return json(link.status());
  },
  { who: "actor" },
);
