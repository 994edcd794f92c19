/** The simulated printer, driven by somebody else's client: Debian's python3-serial over a pseudo-terminal. */
import { ChildProcess, execFile, spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { promisify } from "node:util";

const folder = mkdtempSync(join(tmpdir(), "cuchara-simulator-"));
const terminal = join(folder, "printer");
let simulator: ChildProcess;

beforeAll(async () => {
  const tsx = join("node_modules", "tsx", "dist", "cli.mjs");
  simulator = spawn(process.execPath, [tsx, "scripts/simulator.ts", "--pty", terminal, "--rate", "20"], {
    stdio: ["ignore", "pipe", "inherit"],
  });
  await new Promise<void>((resolve, reject) => {
    simulator.stdout!.on("data", (text: Buffer) => text.includes("is at") && resolve());
    simulator.on("exit", (code) => reject(new Error(`The simulator ended with ${code}.`)));
  });
}, 30_000);

afterAll(() => {
  simulator.removeAllListeners("exit");
  simulator.kill();
  rmSync(folder, { recursive: true, force: true });
});

it("answers a serial program as a printer does", async () => {
  const { stdout } = await promisify(execFile)("/usr/bin/python3", ["tests/unit/link/serial-client.py", terminal]);
  const seen = JSON.parse(stdout) as Record<string, string[]>;
  expect(seen.M115.join("\n")).toMatch(/FIRMWARE_NAME:.*MACHINE_TYPE:Ladle 220[^]*Cap:EEPROM:1[^]*ok$/);
  expect(seen.M114[seen.M114.length - 2]).toMatch(/^X:0\.00 Y:0\.00 Z:0\.00 E:0\.00 Count X:0 Y:0 Z:0$/);
  // Homing takes eleven seconds of its own time: a sign of life every two.
  expect(seen.G28).toEqual([...Array(5).fill("echo:busy: processing"), "ok"]);
  expect(seen.M105).toEqual([expect.stringMatching(/^ok T:\d+\.\d \/0\.0 B:\d+\.\d \/0\.0 @:0 B@:0$/)]);
  // Check vectors from memory (N3 … N6): the simulator takes each of them, so its checksum is theirs.
  for (const line of ["N3 T0*57", "N4 G92 E0*67", "N6 G1 F1500.0*82"])
    expect([line, seen[line]]).toEqual([line, ["ok"]]);
  expect(seen["N5 G28*22"].at(-1)).toBe("ok");
  expect(seen.wrong).toEqual([expect.stringMatching(/^Error:checksum/), "Resend: 7", "ok"]);
  expect(seen["out of order"]).toEqual([expect.stringMatching(/^Error:line number/), "Resend: 7", "ok"]);
}, 60_000);
