import { handle, json } from "@/server/http/respond";
import { listPorts, serialSpeeds } from "@/server/link/transports/serial";

export const GET = handle(async () => json({ ports: await listPorts(), speeds: serialSpeeds }));
