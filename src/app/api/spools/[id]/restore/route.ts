import { spoolRoutes } from "@/server/http/spool-routes";

export const { POST } = spoolRoutes.restore;
