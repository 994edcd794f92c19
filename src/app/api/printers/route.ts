import { printerRoutes } from "@/server/http/printer-routes";

export const { GET, POST } = printerRoutes.collection;
