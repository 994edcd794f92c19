/**
 * How fast a job's lines go to a printer, with numbers and checksums, as ratios to what a line at 250000 baud could carry at
 * best: part of `npm run bench`.
 */
import { spawn } from "node:child_process";
import { existsSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { SerialPort } from "serialport";
import { numberedLine } from "../src/core/gcode/checksum";
import { printerSchema } from "../src/core/shelf/printer-schema";
import { demoPrinters } from "../src/server/demo/scenario";
import { LineStream, LinkSession } from "../src/server/link/session";
import { SerialTransport } from "../src/server/link/transports/serial";
import { SimulatedTransport } from "../src/server/link/transports/simulated";
import { Transport } from "../src/server/link/transports/transport";
import { SimulatorHost } from "../src/server/simulator/host";

const LINES = 20_000;
/** A byte on a serial line is ten bits: one to start, eight, one to stop (practice). */
const BYTES_PER_S = 250_000 / 10;

const printer = printerSchema.parse(demoPrinters[0]);
const program = Array.from(
  { length: LINES },
  (_, i) => `G1 X${(100 + (i % 2) * 0.2).toFixed(3)} Y100.125 E0.00677 F12000`,
);
const hostOf = () => new SimulatorHost(printer, { load: () => undefined, store: () => undefined }, 500);

const row = (what: string, figure: string, aim: string) =>
  console.log(`${what.padEnd(58)} ${figure.padStart(26)}   ${aim}`);

/** Seconds for the whole program over a transport. */
function stream(transport: Transport): Promise<number> {
  return new Promise((resolve, reject) => {
    const session = new LinkSession(transport, {
      onEvent: () => undefined,
      onTemperatures: () => undefined,
      onChange: () => undefined,
    });
    let at = 0;
    let taken = 0;
    let started = 0;
    const lines: LineStream = {
      next: () => program[at++] ?? null,
      onTaken() {
        if (++taken < LINES) return;
        const seconds = (performance.now() - started) / 1000;
        void session.close().then(() => resolve(seconds));
      },
      onBroken: (why) => taken < LINES && reject(new Error(why)),
    };
    void session.open().then(async () => {
      for (const line of ["G28", "M83", "G1 X100 Y100 F9000", "G4 P1"]) await session.exchange(line, "console");
      started = performance.now();
      session.start(lines);
    }, reject);
  });
}

function show(what: string, seconds: number, aimLinesPerS: number): void {
  const bytes = program.reduce((sum, line, i) => sum + numberedLine(i + 1, line).length + 1 + "ok\n".length, 0);
  const limit = LINES / (bytes / BYTES_PER_S);
  const perSecond = LINES / seconds;
  row(
    what,
    `${perSecond.toFixed(0)} lines/s = ${(perSecond / limit).toFixed(1)} × line`,
    `aim ≥ ${aimLinesPerS} lines/s; 250000 baud carries ${limit.toFixed(0)}`,
  );
}

async function main(): Promise<void> {
  // Links keep no program alive by themselves.
  const awake = setInterval(() => undefined, 1000);
  const host = hostOf();
  show("streaming a job, simulated transport", await stream(new SimulatedTransport(host)), 3000);
  host.stop();

  const folder = mkdtempSync(join(tmpdir(), "cuchara-bench-link-"));
  const [ours, theirs] = [join(folder, "ours"), join(folder, "theirs")];
  const socat = spawn("socat", [`PTY,link=${ours},raw,echo=0`, `PTY,link=${theirs},raw,echo=0`], { stdio: "ignore" });
  let missing = false;
  socat.on("error", () => (missing = true));
  while (!missing && (!existsSync(ours) || !existsSync(theirs)))
    await new Promise((resolve) => setTimeout(resolve, 10));
  if (missing) {
    clearInterval(awake);
    return console.log("There is no socat, so the pseudo-terminal is not measured.");
  }
  const far = hostOf();
  const device = new SerialPort({ path: theirs, baudRate: 250000 });
  await new Promise((resolve) => device.once("open", resolve));
  device.on("data", (bytes: Buffer) => far.receive(bytes.toString("latin1")));
  far.attach(
    (text) => device.write(Buffer.from(text, "latin1")),
    () => undefined,
  );
  show("streaming a job, pseudo-terminal", await stream(new SerialTransport(ours, 250000)), 1000);
  far.stop();
  await new Promise<void>((resolve) => device.close(() => resolve()));
  socat.kill();
  rmSync(folder, { recursive: true, force: true });
  clearInterval(awake);
}

void main();
