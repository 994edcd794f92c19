/** All links of this program: one per printer at most, and one printer per way. */
import { placeOf, Way } from "@/core/link/way";
import { confirmedAddresses } from "../db/confirmed-addresses";
import { jobs } from "../db/jobs";
import { addBegunRuns } from "../work/runs";
import { printers, SavedPrinter } from "../db/printers";
import { simulatorMemory } from "../db/simulator-memory";
import { log } from "../log";
import { missing, Refused } from "../refused";
import { SimulatorHost } from "../simulator/host";
import { Journal } from "./journal";
import { Ledger } from "./ledger";
import { Link } from "./link";
import { refuseOwnPort } from "./own-port";
import { SerialTransport } from "./transports/serial";
import { SimulatedTransport } from "./transports/simulated";
import { TcpTransport } from "./transports/tcp";

interface Hub {
  journal: Journal;
  ledger: Ledger;
  links: Map<number, Link>;
  hosts: Map<number, SimulatorHost<SavedPrinter>>;
  /** Ways that are being asked for what stands at their end: another talk there would mix the answers. */
  asked: Set<string>;
}

// One hub per process; kept on globalThis because route handlers are loaded apart from one another.
const shared = globalThis as { cucharaHub?: Hub };

export function hub(): Hub {
  if (!shared.cucharaHub) {
    jobs.breakOpen();
    addBegunRuns();
    const tellAll = () => shared.cucharaHub?.links.forEach((link) => link.changed());
    shared.cucharaHub = {
      journal: new Journal(tellAll),
      ledger: new Ledger(tellAll),
      links: new Map(),
      hosts: new Map(),
      asked: new Set(),
    };
  }
  return shared.cucharaHub;
}

/** Writes down what waits; for the end of the program. */
export function settleHub(): void {
  shared.cucharaHub?.journal.store();
  shared.cucharaHub?.ledger.settle();
}

/** Closes every link; for the end of the program and before another database is put in place. */
export async function closeLinks(): Promise<void> {
  await Promise.all([...(shared.cucharaHub?.links.values() ?? [])].map((link) => link.close()));
  settleHub();
}

/** How many jobs are running or paused. */
export function runningJobs(): number {
  return [...(shared.cucharaHub?.links.values() ?? [])].filter(({ job }) => job?.running).length;
}

/** Begins anew behind another database; links must be closed. */
export function forgetHub(): void {
  for (const host of shared.cucharaHub?.hosts.values() ?? []) host.stop();
  shared.cucharaHub = undefined;
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
}: Omit<SavedPrinter, "id">): string {
  return JSON.stringify([dialect, tools, fanPerTool, bedShape, bedOrigin, bedWidthMm, bedDepthMm, buildHeightMm]);
}

/** Whether a link keeps others from its printer and its way. */
export const isHeld = (link: Link | undefined) => link?.session.state === "open" || link?.session.state === "opening";

/** Refuses a change on the shelf that would take the machine away under a link. What does not touch the machine may be changed. */
export function guardChange(
  before: SavedPrinter,
  after: Omit<SavedPrinter, "id" | "version" | "createdAt" | "updatedAt">,
): void {
  if (machineOf(before) === machineOf({ ...before, ...after })) return;
  if (isHeld(hub().links.get(before.id))) {
    throw new Refused(
      "conflict",
      `${before.name} is linked. Close the link before its bed, its tools or its dialect are changed.`,
    );
  }
  forgetSimulator(before.id);
}

/** Refuses to take a printer off the shelf while it is linked. */
export function guardRemoval(printer: SavedPrinter): void {
  const { links } = hub();
  if (isHeld(links.get(printer.id))) {
    throw new Refused("conflict", `${printer.name} is linked. Close the link before you take it off the shelf.`);
  }
  links.delete(printer.id);
  forgetSimulator(printer.id);
}

function forgetSimulator(printerId: number): void {
  const { hosts } = hub();
  hosts.get(printerId)?.stop();
  hosts.delete(printerId);
}

/** The simulated stand-in of a printer; it goes on running while nobody is linked. */
export function simulatorOf(printer: SavedPrinter): SimulatorHost<SavedPrinter> {
  const { hosts } = hub();
  const known = hosts.get(printer.id);
  if (known) return known;
  const memory = simulatorMemory(printer.id);
  const host = new SimulatorHost(printer, {
    load: memory.load,
    store: (saved) => hub().ledger.write(`simulator ${printer.id}`, () => memory.store(saved)),
  });
  hosts.set(printer.id, host);
  return host;
}

/** What the extruder of a linked simulated printer really feeds of what it is asked for; null where no simulated one is linked. */
export function feedShareOf(printerId: number, tool: number): number | null {
  const isSimulated = hub().links.get(printerId)?.status().simulated;
  return isSimulated ? (hub().hosts.get(printerId)?.machine.feedTruth(tool) ?? null) : null;
}

/**
 * Links a printer; what it was linked by before is closed. Refused while a link of it is being made or prints, while another printer
 * holds the same way, and until an address in the network is confirmed; with a sentence if the way cannot be opened.
 */
export async function connect(printerId: number, way: Way, confirmed = false): Promise<Link> {
  const printer = printers.get(printerId);
  if (!printer) throw missing(`There is no printer ${printerId}.`);
  const { links, journal, ledger } = hub();
  const before = links.get(printerId);
  if (before?.session.state === "opening") {
    throw new Refused("conflict", `${printer.name} is being linked already. Wait until that is done, or close it.`);
  }
  if (before?.job?.running && before.session.state === "open") {
    throw new Refused("conflict", `A job is running on ${printer.name}. Cancel it before you link it anew.`);
  }
  const place = placeOf(way);
  const holder = [...links.values()].find(
    (link) => link !== before && place !== null && link.place === place && isHeld(link),
  );
  if (holder) {
    throw new Refused("conflict", `${holder.printer.name} holds ${place} already. Close that link first.`, {
      field: "transport",
    });
  }
  if (place !== null && hub().asked.has(place)) {
    throw new Refused("conflict", `A printer is being asked at ${place} just now. Wait until that is done.`, {
      field: "transport",
    });
  }
  if (way.kind === "tcp") confirmAddress(printer, `${way.host}:${way.port}`, confirmed);
  const screen = way.kind === "simulated" ? () => simulatorOf(printer).machine.display : undefined;
  const link = new Link(printer, transportFor(printer, way), journal, ledger, place, screen);
  // From here on it is the printer's one link, still opening: nobody else can make one beside it.
  links.set(printerId, link);
  try {
    await link.open(async () => {
      await before?.close();
      if (way.kind === "tcp") await refuseOwnPort(way.host, way.port);
    });
  } catch (error) {
    if (links.get(printerId) === link) links.delete(printerId);
    const why = error instanceof Error ? error.message : "The way to the printer cannot be opened.";
    log().warn({ printer: printerId, way, why }, "a link was not made");
    throw new Refused("unreachable", why);
  }
  log().info({ printer: printerId, way }, "a link was made");
  return link;
}

/** A printer's own address is confirmed once; whatever else the network holds is not reached from here by mistake. */
function confirmAddress(printer: SavedPrinter, address: string, confirmed: boolean): void {
  if (confirmedAddresses.has(printer.id, address)) return;
  if (!confirmed) {
    throw new Refused("conflict", `${printer.name} was never linked at ${address} before. Is that the printer?`, {
      field: "confirmed",
    });
  }
  confirmedAddresses.add(printer.id, address);
}

function transportFor(printer: SavedPrinter, way: Way) {
  switch (way.kind) {
    case "simulated": {
      const host = simulatorOf(printer);
      host.setRate(way.rate);
      return new SimulatedTransport(host);
    }
    case "serial":
      return new SerialTransport(way.path, way.baud);
    case "tcp":
      return new TcpTransport(way.host, way.port);
  }
}

/** A linked printer is spoken of as it now stands on the shelf. */
export function followShelf(printer: SavedPrinter): void {
  const link = hub().links.get(printer.id);
  if (link) link.printer = printer;
  link?.changed();
}

/** The link of a printer; refused if it has none. */
export function linkOf(printerId: number): Link {
  const link = hub().links.get(printerId);
  if (!link) throw new Refused("conflict", "This printer is not linked. Link it first.");
  return link;
}

/** The link of a printer that can be talked to now. */
export function openLinkOf(printerId: number): Link {
  const link = linkOf(printerId);
  if (link.session.state !== "open") {
    throw new Refused("conflict", "The link to this printer is gone. Link it again.");
  }
  return link;
}
