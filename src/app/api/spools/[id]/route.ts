import { spoolRoutes } from "@/server/http/spool-routes";

export const { GET, PUT, DELETE } = spoolRoutes.item;
