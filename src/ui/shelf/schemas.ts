/** What the records of the shelf may be: fetched when a form stands, so that no page waits for it. */
export const printerSchema = async () => (await import("@/core/shelf/printer-schema")).printerSchema;
export const spoolSchema = async () => (await import("@/core/shelf/spool-schema")).spoolSchema;
