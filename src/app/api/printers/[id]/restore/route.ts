import { printerRoutes } from "@/server/http/printer-routes";

export const { POST } = printerRoutes.restore;
