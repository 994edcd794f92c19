import { connect, Socket } from "node:net";
import { Transport, TransportEvents } from "./transport";

/** A printer behind a network socket. */
export class TcpTransport implements Transport {
  readonly rate = 1;
  readonly label: string;
  private socket: Socket | null = null;

  constructor(
    private readonly host: string,
    private readonly port: number,
  ) {
    this.label = `Network ${host}:${port}`;
  }

  open({ onBytes, onLost }: TransportEvents): Promise<void> {
    return new Promise((resolve, reject) => {
      const socket = connect({ host: this.host, port: this.port, timeout: 4000 });
      this.socket = socket;
      let opened = false;
      let lost: string | null = null;
      socket.on("connect", () => {
        opened = true;
        socket.setTimeout(0);
        socket.setNoDelay(true);
        socket.setKeepAlive(true, 1000);
        resolve();
      });
      socket.on("timeout", () => socket.destroy(new Error("it does not answer")));
      socket.on("data", onBytes);
      socket.on("error", ({ message }) => (lost = message));
      socket.on("close", () => {
        if (!opened) return reject(new Error(`${this.host}:${this.port} cannot be reached: ${lost ?? "it refused"}.`));
        if (this.socket === socket) onLost(lost ?? "The printer closed the connection.");
        this.socket = null;
      });
    });
  }

  write(bytes: Uint8Array): void {
    this.socket?.write(bytes);
  }

  async close(): Promise<void> {
    const { socket } = this;
    this.socket = null;
    socket?.destroy();
  }
}
