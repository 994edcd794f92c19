/** The way bytes reach a printer and come back. One contract for simulated, serial and network printers. */

export interface TransportEvents {
  onBytes(bytes: Uint8Array): void;
  /** The way is gone, with the reason. Called once, and not for a close that was asked for. */
  onLost(reason: string): void;
}

export interface Transport {
  /** `Serial /dev/ttyUSB0 at 115200`, `Simulated` … */
  readonly label: string;
  /** Seconds of the printer that pass in one second here: 1, but for a simulated one. */
  readonly rate: number;
  /** Opens the way; sends nothing. Rejects with an `Error` whose message can be shown. */
  open(events: TransportEvents): Promise<void>;
  write(bytes: Uint8Array): void;
  /** Closes it; never rejects. */
  close(): Promise<void>;
}
