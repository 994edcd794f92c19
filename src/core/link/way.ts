/** The ways to a printer, as they are asked for. */
import { z } from "zod";

/** Speeds offered, the usual ones first. Common practice, no source. */
export const serialSpeeds = [115200, 250000, 57600, 38400, 19200, 9600, 230400, 460800, 500000, 921600, 1000000];

export const waySchema = z.discriminatedUnion(
  "kind",
  [
    z.object({
      kind: z.literal("simulated"),
      rate: z.number().min(1, "The clock runs at least at 1 ×").max(500, "The clock runs at most at 500 ×").default(1),
    }),
    z.object({
      kind: z.literal("serial"),
      path: z
        .string({ error: "Choose a port" })
        .regex(/^(\/dev\/[\w./-]+|\/tmp\/[\w./-]+|COM\d+)$/, "A port is named like /dev/ttyUSB0 or COM3")
        .refine((path) => !path.includes(".."), "A port is named like /dev/ttyUSB0 or COM3"),
      baud: z
        .int({ error: "The speed is a whole number" })
        .refine((baud) => serialSpeeds.includes(baud), `The speed is one of ${serialSpeeds.join(", ")}`),
    }),
    z.object({
      kind: z.literal("tcp"),
      host: z
        .string({ error: "Give the printer's address" })
        .trim()
        .regex(/^[\w.:-]{1,255}$/, "An address is a name or numbers, like 192.168.1.20"),
      port: z
        .int({ error: "The port is a whole number" })
        .min(1, "A port is 1 to 65535")
        .max(65535, "A port is 1 to 65535"),
    }),
  ],
  { error: "The way to the printer is simulated, serial or tcp" },
);

export type Way = z.infer<typeof waySchema>;

/** What two links cannot share; null for a simulated printer, of which each record has its own. */
export function placeOf(way: Way): string | null {
  if (way.kind === "serial") return way.path;
  return way.kind === "tcp" ? `${way.host.toLowerCase()}:${way.port}` : null;
}
