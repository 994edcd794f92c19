import { handle, json } from "@/server/http/respond";
import { hub } from "@/server/link/hub";

export const GET = handle(() => json([...hub().links.values()].map((link) => link.status())), { who: "reader" });
