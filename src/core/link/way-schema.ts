/** A way to a printer as it comes over a border. */
import { z } from "zod";
import { serialSpeeds } from "./way";

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
