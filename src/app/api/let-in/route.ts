import { z } from "zod";
import { COOKIE, letIn } from "@/server/front/devices";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { CALLER_HEADER } from "@/server/who";
import { nameSchema } from "@/core/shelf/name";

const YEAR_S = 365 * 24 * 3600;

const body = z.object({
  code: z
    .string({ error: "Type the code that the bench shows" })
    .trim()
    .regex(/^\d{8}$/, "The code has eight digits"),
  name: nameSchema("device").default("A phone"),
});

/** Lets a device of the home network in that knows the code; it carries a cookie from then on. */
export const POST = handle(
  async (request) => {
    const { code, name } = await readBody(request, body);
    const { token, device } = letIn(code, name, request.headers.get(CALLER_HEADER) ?? "stranger");
    const response = json(device, 201);
    response.headers.set("Set-Cookie", `${COOKIE}=${token}; Path=/; Max-Age=${YEAR_S}; HttpOnly; SameSite=Strict`);
    return response;
  },
  { who: "stranger" },
);
