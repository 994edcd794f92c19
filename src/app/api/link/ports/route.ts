import { handle, json } from "@/server/http/respond";
import { serialSpeeds } from "@/core/link/way";
import { listPorts } from "@/server/link/transports/serial";

export const GET = handle(async () => json({ ports: await listPorts(), speeds: serialSpeeds }), { who: "reader" });
