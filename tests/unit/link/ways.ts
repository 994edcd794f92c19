/** Ways to one and the same simulated printer, for tests that must hold on all of them. */
import { ChildProcess, spawn } from "node:child_process";
import { existsSync, mkdtempSync, rmSync } from "node:fs";
import { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { SerialPort } from "serialport";
import { Printer } from "@/core/shelf/printer";
import { SerialTransport } from "@/server/link/transports/serial";
import { SimulatedTransport } from "@/server/link/transports/simulated";
import { TcpTransport } from "@/server/link/transports/tcp";
import { Transport } from "@/server/link/transports/transport";
import { SimulatorHost } from "@/server/simulator/host";
import { simulatorServer } from "@/server/simulator/socket";

export interface Way {
  transport: Transport;
  host: SimulatorHost;
  /** Pulls the cable. */
  pull(): void;
  end(): Promise<void>;
}

export type WayKind = "simulated" | "serial" | "tcp";

export function hostOf(printer: Printer, rate = 500): SimulatorHost {
  let saved: Record<string, number> | undefined;
  return new SimulatorHost(printer, { load: () => saved, store: (next) => (saved = next) }, rate);
}

export async function wayTo(kind: WayKind, printer: Printer, rate = 500): Promise<Way> {
  const host = hostOf(printer, rate);
  if (kind === "simulated") {
    return { host, transport: new SimulatedTransport(host), pull: () => host.pull(), end: async () => host.stop() };
  }
  return kind === "tcp" ? overTcp(host) : overPty(host);
}

async function overTcp(host: SimulatorHost): Promise<Way> {
  const server = simulatorServer(host);
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const { port } = server.address() as AddressInfo;
  return {
    host,
    transport: new TcpTransport("127.0.0.1", port),
    pull: () => host.pull(),
    async end() {
      host.stop();
      host.pull();
      await new Promise((resolve) => server.close(resolve));
    },
  };
}

async function overPty(host: SimulatorHost): Promise<Way> {
  const { ours, theirs, end, pull } = await ptyPair();
  const device = new SerialPort({ path: theirs, baudRate: 250000, autoOpen: false });
  await new Promise<void>((resolve, reject) => device.open((error) => (error ? reject(error) : resolve())));
  device.on("data", (bytes: Buffer) => host.receive(bytes.toString("latin1")));
  device.on("error", () => undefined);
  host.attach(
    (text) => device.isOpen && device.write(Buffer.from(text, "latin1")),
    () => undefined,
  );
  return {
    host,
    transport: new SerialTransport(ours, 250000),
    pull,
    async end() {
      host.stop();
      await new Promise<void>((resolve) => (device.isOpen ? device.close(() => resolve()) : resolve()));
      await end();
    },
  };
}

/** Two pseudo-terminals that are one cable, made by Debian's socat. */
export async function ptyPair(): Promise<{ ours: string; theirs: string; pull(): void; end(): Promise<void> }> {
  const folder = mkdtempSync(join(tmpdir(), "cuchara-pty-"));
  const [ours, theirs] = [join(folder, "ours"), join(folder, "theirs")];
  const socat: ChildProcess = spawn("socat", [`PTY,link=${ours},raw,echo=0`, `PTY,link=${theirs},raw,echo=0`], {
    stdio: "ignore",
  });
  const failed = new Promise<never>((_, reject) =>
    socat.on("error", () =>
      reject(new Error("The tests of serial links need the program socat: install Debian's package.")),
    ),
  );
  const gone = new Promise<void>((resolve) => socat.on("exit", () => resolve()));
  const there = (async () => {
    while (!existsSync(ours) || !existsSync(theirs)) await pause(10);
  })();
  await Promise.race([there, failed]);
  return {
    ours,
    theirs,
    pull: () => void socat.kill(),
    async end() {
      socat.kill();
      await gone;
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

export const pause = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms));

/** Waits until something holds; fails after so long. */
export async function until(holds: () => boolean, what: string, ms = 8000): Promise<void> {
  const start = Date.now();
  while (!holds()) {
    if (Date.now() - start > ms) throw new Error(`Waited in vain: ${what}`);
    await pause(5);
  }
}
