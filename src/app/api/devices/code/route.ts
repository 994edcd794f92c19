import { showCode } from "@/server/front/devices";
import { handle, json } from "@/server/http/respond";

/** A code for one device, good for a few minutes and a few tries; the one before is void. */
export const POST = handle(() => json(showCode(), 201));
