import { existsSync } from "node:fs";
import { readdir } from "node:fs/promises";
import { SerialPort } from "serialport";
import { Transport, TransportEvents } from "./transport";

/** How often it is looked whether the port is still there. */
const LOOK_EVERY_MS = 500;

/** Devices a printer's board shows up as, where nobody tells more of them. */
const boardDevice = /^(ttyUSB|ttyACM|cu\.usb)/;

/** The ports of this machine with what they say of themselves; by name alone where the system tells nothing. */
export async function listPorts(): Promise<{ path: string; name: string }[]> {
  let ports: Awaited<ReturnType<typeof SerialPort.list>>;
  try {
    ports = await SerialPort.list();
  } catch {
    const devices = await readdir("/dev").catch(() => []);
    return devices
      .filter((name) => boardDevice.test(name))
      .map((name) => ({ path: `/dev/${name}`, name: `/dev/${name}` }));
  }
  return ports
    .filter(({ path }) => !/ttyS\d+$/.test(path))
    .map(({ path, manufacturer, serialNumber }) => ({
      path,
      name: [path, manufacturer, serialNumber].filter(Boolean).join(" · "),
    }));
}

/** A printer on a serial port, a pseudo-terminal included. */
export class SerialTransport implements Transport {
  readonly rate = 1;
  readonly label: string;
  private port: SerialPort | null = null;
  private watch: ReturnType<typeof setInterval> | null = null;

  constructor(
    private readonly path: string,
    private readonly baud: number,
  ) {
    this.label = `Serial ${path} at ${baud}`;
  }

  open({ onBytes, onLost }: TransportEvents): Promise<void> {
    return new Promise((resolve, reject) => {
      const port = new SerialPort({ path: this.path, baudRate: this.baud, autoOpen: false });
      const lose = (reason: string) => {
        if (this.port !== port) return;
        this.end();
        onLost(reason);
      };
      port.on("data", onBytes);
      port.on("error", ({ message }) => lose(message));
      port.on("close", () => lose("The cable was pulled or the printer switched off."));
      port.open((error) => {
        if (error) return reject(new Error(`${this.path} cannot be opened: ${error.message}.`));
        this.port = port;
        // Some drivers do not say when a device goes away: its file does.
        this.watch = setInterval(() => {
          if (!existsSync(this.path)) {
            lose("The cable was pulled or the printer switched off.");
            port.close(() => undefined);
          }
        }, LOOK_EVERY_MS);
        this.watch.unref();
        resolve();
      });
    });
  }

  write(bytes: Uint8Array): void {
    this.port?.write(Buffer.from(bytes));
  }

  close(): Promise<void> {
    const { port } = this;
    this.end();
    return new Promise((resolve) => (port?.isOpen ? port.close(() => resolve()) : resolve()));
  }

  private end(): void {
    this.port = null;
    if (this.watch) clearInterval(this.watch);
    this.watch = null;
  }
}
