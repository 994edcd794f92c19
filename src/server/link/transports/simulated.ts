import { SimulatorHost } from "../../simulator/host";
import { Transport, TransportEvents } from "./transport";

/** A simulated printer inside this very program. */
export class SimulatedTransport implements Transport {
  readonly label = "Simulated";
  private detach: (() => void) | null = null;

  constructor(private readonly host: SimulatorHost) {}

  get rate(): number {
    return this.host.rate;
  }

  async open({ onBytes, onLost }: TransportEvents): Promise<void> {
    this.detach = this.host.attach(
      (text) => onBytes(Buffer.from(text, "latin1")),
      (reason) => {
        this.detach = null;
        onLost(reason);
      },
    );
  }

  write(bytes: Uint8Array): void {
    if (this.detach) this.host.receive(Buffer.from(bytes).toString("latin1"));
  }

  async close(): Promise<void> {
    this.detach?.();
    this.detach = null;
  }
}
