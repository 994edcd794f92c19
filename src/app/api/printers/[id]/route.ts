import { printerRoutes } from "@/server/http/printer-routes";

export const { GET, PUT, DELETE } = printerRoutes.item;
