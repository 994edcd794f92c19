/**
 * Serves a simulated printer on a pseudo-terminal or a network socket, so that any serial program can talk to it.
 *
 *   --pty [path]        a pseudo-terminal (needs Debian's socat); its path is printed
 *   --tcp [port]        a network socket on 127.0.0.1 (default 4750)
 *   --printer "Name"    one of the demo printers (default: the first)
 *   --rate 1            how many seconds of the printer pass in one second, 1 to 500
 */
import { spawn } from "node:child_process";
import { existsSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { parseArgs } from "node:util";
import { printerSchema } from "@/core/shelf/printer-schema";
import { demoPrinters } from "@/server/demo/scenario";
import { SimulatorHost } from "@/server/simulator/host";
import { simulatorServer } from "@/server/simulator/socket";

const given = process.argv.slice(2);
// `--pty` and `--tcp` may stand alone: they have usual values.
const filled = given.flatMap((word, i) => {
  if (word !== "--pty" && word !== "--tcp") return [word];
  const next = given[i + 1];
  const usual = word === "--pty" ? join(tmpdir(), "cuchara-printer") : "4750";
  return next === undefined || next.startsWith("--") ? [word, usual] : [word];
});
const { values } = parseArgs({
  args: filled,
  options: {
    pty: { type: "string" },
    tcp: { type: "string" },
    printer: { type: "string", default: demoPrinters[0].name },
    rate: { type: "string", default: "1" },
  },
});

function fail(sentence: string): never {
  process.stderr.write(`${sentence}\n`);
  process.exit(1);
}

const record = demoPrinters.find(({ name }) => name === values.printer);
if (!record)
  fail(`There is no printer “${values.printer}”. There are: ${demoPrinters.map(({ name }) => name).join(", ")}.`);
const rate = Number(values.rate);
if (!(rate >= 1 && rate <= 500)) fail("The rate is 1 to 500.");

// What it saves is forgotten when it ends: it is a stand-in, not a printer.
let saved: Record<string, number> | undefined;
const host = new SimulatorHost(
  printerSchema.parse(record),
  { load: () => saved, store: (next) => (saved = next) },
  rate,
);

if (values.pty !== undefined) servePty(values.pty);
else serveTcp(Number(values.tcp ?? 4750));

function servePty(path: string): void {
  const socat = spawn("socat", [`PTY,link=${path},raw,echo=0`, "STDIO"], { stdio: ["pipe", "pipe", "inherit"] });
  socat.on("error", () =>
    fail("A pseudo-terminal needs the program socat: install Debian's package of that name, or use --tcp."),
  );
  socat.on("exit", (code) => process.exit(code ?? 0));
  host.attach(
    (text) => socat.stdin.write(Buffer.from(text, "latin1")),
    () => undefined,
  );
  socat.stdout.on("data", (bytes: Buffer) => host.receive(bytes.toString("latin1")));
  for (const signal of ["SIGINT", "SIGTERM"] as const) process.on(signal, () => socat.kill());
  const look = setInterval(() => {
    if (!existsSync(path)) return;
    clearInterval(look);
    process.stdout.write(`${record!.name} is at ${path}\n`);
  }, 20);
}

function serveTcp(port: number): void {
  if (!Number.isInteger(port) || port < 1 || port > 65535) fail("A port is 1 to 65535.");
  const server = simulatorServer(host);
  server.listen(port, "127.0.0.1", () => process.stdout.write(`${record!.name} is at 127.0.0.1:${port}\n`));
  server.on("error", ({ message }) => fail(`Port ${port} cannot be used: ${message}`));
}
