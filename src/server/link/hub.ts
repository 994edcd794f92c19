/** All links of this program: one per printer at most. */
import { z } from "zod";
import { printers, SavedPrinter } from "../db/printers";
import { jobs } from "../db/jobs";
import { simulatorMemory } from "../db/simulator-memory";
import { HttpError, notFound } from "../http/respond";
import { SimulatorHost } from "../simulator/host";
import { Journal } from "./journal";
import { Link } from "./link";
import { SerialTransport, serialSpeeds } from "./transports/serial";
import { SimulatedTransport } from "./transports/simulated";
import { TcpTransport } from "./transports/tcp";

export const transportSchema = z.discriminatedUnion(
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

export type TransportChoice = z.infer<typeof transportSchema>;

interface Hub {
  journal: Journal;
  links: Map<number, Link>;
  hosts: Map<number, SimulatorHost<SavedPrinter>>;
}

// One hub per process; kept on globalThis because route handlers are loaded apart from one another.
const shared = globalThis as { cucharaHub?: Hub };

export function hub(): Hub {
  if (!shared.cucharaHub) {
    jobs.breakOpen();
    shared.cucharaHub = { journal: new Journal(), links: new Map(), hosts: new Map() };
    process.once("beforeExit", () => shared.cucharaHub?.journal.store());
  }
  return shared.cucharaHub;
}

/** What makes a printer another machine, when it is changed on the shelf; its lines and figures of work do not. */
function machineOf({
  dialect,
  tools,
  fanPerTool,
  bedShape,
  bedOrigin,
  bedWidthMm,
  bedDepthMm,
  buildHeightMm,
}: SavedPrinter): string {
  return JSON.stringify([dialect, tools, fanPerTool, bedShape, bedOrigin, bedWidthMm, bedDepthMm, buildHeightMm]);
}

/** The simulated stand-in of a printer; it goes on running while nobody is linked. */
export function simulatorOf(printer: SavedPrinter): SimulatorHost<SavedPrinter> {
  const { hosts } = hub();
  const known = hosts.get(printer.id);
  if (known && machineOf(known.printer) === machineOf(printer)) return known;
  known?.pull("The printer was changed on the shelf.");
  known?.stop();
  const host = new SimulatorHost(printer, simulatorMemory(printer.id));
  hosts.set(printer.id, host);
  return host;
}

/** Links a printer; what it was linked by before is closed. Rejects with a sentence if the way cannot be opened. */
export async function connect(printerId: number, choice: TransportChoice): Promise<Link> {
  const printer = printers.get(printerId);
  if (!printer) throw notFound(`There is no printer ${printerId}.`);
  const { links, journal } = hub();
  const before = links.get(printerId);
  if (before?.job?.running && before.session.state === "open") {
    throw new HttpError(409, `A job is running on ${printer.name}. Cancel it before you link it anew.`);
  }
  await before?.close();
  const screen = choice.kind === "simulated" ? () => simulatorOf(printer).machine.display : undefined;
  const link = new Link(printer, transportFor(printer, choice), journal, screen);
  links.set(printerId, link);
  try {
    await link.session.open();
  } catch (error) {
    links.delete(printerId);
    throw new HttpError(502, error instanceof Error ? error.message : "The way to the printer cannot be opened.");
  }
  return link;
}

function transportFor(printer: SavedPrinter, choice: TransportChoice) {
  switch (choice.kind) {
    case "simulated": {
      const host = simulatorOf(printer);
      host.setRate(choice.rate);
      return new SimulatedTransport(host);
    }
    case "serial":
      return new SerialTransport(choice.path, choice.baud);
    case "tcp":
      return new TcpTransport(choice.host, choice.port);
  }
}

/** The link of a printer; a 409 if it has none. */
export function linkOf(printerId: number): Link {
  const link = hub().links.get(printerId);
  if (!link) throw new HttpError(409, "This printer is not linked. Link it first.");
  // It may have been changed on the shelf meanwhile.
  link.printer = printers.get(printerId) ?? link.printer;
  return link;
}

/** The link of a printer that can be talked to now. */
export function openLinkOf(printerId: number): Link {
  const link = linkOf(printerId);
  if (link.session.state !== "open") throw new HttpError(409, "The link to this printer is gone. Link it again.");
  return link;
}
