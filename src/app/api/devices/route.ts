import { devices } from "@/server/db/devices";
import { handle, json } from "@/server/http/respond";

/** Devices of the home network that were let in. */
export const GET = handle(() => json(devices.list()), { who: "bench" });
