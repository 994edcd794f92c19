import { spoolRoutes } from "@/server/http/spool-routes";

export const { GET, POST } = spoolRoutes.collection;
