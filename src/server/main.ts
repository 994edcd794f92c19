/**
 * The program: one process that listens, guards, serves pages and interface, and ends cleanly. Bundled apart from the pages (see
 * `scripts/prepare.mjs`); what it shares with the route handlers lies on `globalThis`.
 */
import { createServer, IncomingMessage, Server, ServerResponse } from "node:http";
import { monitorEventLoopDelay } from "node:perf_hooks";
import next from "next";
import { closeStore, databaseTrouble } from "./db/connection";
import { dataFolder } from "./db/place";
import { startUpkeep } from "./db/upkeep";
import { answeredInFront, answerError, giveBodies } from "./front/front";
import { trials } from "./db/trials";
import { isThisMachine } from "./front/devices";
import { hub, closeLinks, settleHub } from "./link/hub";
import { log, logPath } from "./log";
import { viewAhead } from "./work/trial-views";

/** What is still under way at the end has so long. */
const END_WITHIN_MS = 1500;

/** A sentence for the terminal. */
function tell(where: NodeJS.WriteStream, sentence: string): void {
  where.write(`${sentence}\n`);
}

/** Ends with a sentence for the terminal. */
function giveUp(sentence: string): never {
  tell(process.stderr, sentence);
  process.exit(1);
}

function portOf(text: string): number {
  const port = Number(text);
  if (!/^\d+$/.test(text) || port < 1 || port > 65535)
    giveUp(`PORT is “${text}”, and must be a whole number from 1 to 65535.`);
  return port;
}

/**
 * A connection nobody uses is kept so long: longer than clients keep theirs, so that none is closed in the moment its next request is sent.
 * Common practice, no source.
 */
const KEEP_ALIVE_MS = 65_000;

function listen(server: Server, port: number, host: string): Promise<void> {
  return new Promise((resolve) => {
    server.once("error", ({ code, message }: NodeJS.ErrnoException) => {
      if (code === "EADDRINUSE") {
        giveUp(`Port ${port} is in use by another program. End it, or choose another port: PORT=${port + 1} npm start`);
      }
      if (code === "EADDRNOTAVAIL") giveUp(`This machine has no address ${host}. HOST names one that it has.`);
      if (code === "EACCES") giveUp(`Port ${port} may not be used. Choose one above 1023: PORT=4747 npm start`);
      giveUp(`Cuchara cannot listen on ${host}:${port}: ${message}.`);
    });
    server.listen(port, host, resolve);
  });
}

async function main(): Promise<void> {
  const host = process.env.HOST || "127.0.0.1";
  const port = portOf(process.env.PORT || "4747");
  process.env.HOST = host;
  process.env.PORT = String(port);

  // The port first: whoever holds it is most likely this program, running already.
  let pages: ((request: IncomingMessage, response: ServerResponse) => Promise<void>) | null = null;
  const serve = (request: IncomingMessage, response: ServerResponse) => {
    if (answeredInFront(request, response)) return;
    giveBodies(request, response);
    if (!pages) return answerError(response, 503, "busy", "Cuchara is just starting. Try again in a moment.");
    pages(request, response).catch((error: unknown) => {
      log().error({ err: error, path: request.url }, "a page failed");
      if (!response.headersSent)
        answerError(response, 500, "bug", "Something went wrong inside Cuchara; the log says more.");
      else response.destroy();
    });
  };
  const hosts =
    isThisMachine(host) || host === "localhost" || host === "0.0.0.0" || host === "::" ? [host] : [host, "127.0.0.1"];
  const servers = hosts.map(() => createServer({ keepAliveTimeout: KEEP_ALIVE_MS }, serve));
  for (const server of servers) {
    server.on("clientError", (_, socket) => {
      if (socket.writable) socket.end("HTTP/1.1 400 Bad Request\r\nConnection: close\r\nContent-Length: 0\r\n\r\n");
    });
  }
  for (const [i, server] of servers.entries()) await listen(server, port, hosts[i]);

  const trouble = databaseTrouble();
  if (trouble) {
    log().error({ trouble }, "the database cannot be used");
    if (trouble.startsWith("Another Cuchara")) giveUp(trouble);
    tell(process.stderr, trouble);
  }

  const delay = monitorEventLoopDelay({ resolution: 10 });
  delay.enable();
  (globalThis as { cucharaDelay?: typeof delay }).cucharaDelay = delay;

  const app = next({ dev: process.env.CUCHARA_DEV === "1", dir: process.cwd(), hostname: host, port });
  await app.prepare();
  pages = app.getRequestHandler();
  const stopUpkeep = startUpkeep();
  if (!trouble) hub();

  let isEnding = false;
  const end = async (signal: string) => {
    if (isEnding) return;
    isEnding = true;
    log().info({ signal }, "ending");
    const timer = setTimeout(() => process.exit(0), END_WITHIN_MS);
    timer.unref();
    stopUpkeep();
    for (const server of servers) server.close();
    await closeLinks().catch((error: unknown) => log().error({ err: error }, "a link was not closed"));
    process.exit(0);
  };
  process.on("exit", () => {
    try {
      settleHub();
      closeStore();
    } catch (error) {
      log().error({ err: error }, "the database was not closed cleanly");
    }
  });
  for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"] as const) process.on(signal, () => void end(signal));
  // One request, line or timer that fails must not take a running print with it.
  process.on("uncaughtException", (error) => log().error({ err: error }, "uncaught"));
  process.on("unhandledRejection", (error) => log().error({ err: error }, "unhandled"));

  const shown = host.includes(":")
    ? host === "::"
      ? "127.0.0.1"
      : `[${host}]`
    : host === "0.0.0.0"
      ? "127.0.0.1"
      : host;
  const address = `http://${shown}:${port}`;
  log().info({ address, data: dataFolder() }, "started");
  if (process.env.CUCHARA_QUIET !== "1") {
    tell(process.stdout, `Cuchara is ready at ${address}`);
    tell(process.stdout, `Data and log: ${dataFolder()} (${logPath()})`);
  }
  process.send?.({ ready: address });
  await loadPages(port);
  if (process.env.CUCHARA_KEEP_COMPILED === "1") return end("built");
  if (!isEnding) warmUp(trouble);
}

/** Asks itself for a page and an answer as soon as it is ready, so that what they are made of is loaded when somebody wants it. */
const LOAD_WITHIN_MS = 10_000;

async function loadPages(port: number): Promise<void> {
  const signal = AbortSignal.timeout(LOAD_WITHIN_MS);
  const asked = ["/bench", "/api/health"].map(async (path) => {
    const answer = await fetch(`http://127.0.0.1:${port}${path}`, { signal });
    await answer.arrayBuffer();
  });
  await Promise.allSettled(asked);
}

/** The newest trial is looked at ahead: a worker is there, and knows what it will be asked for. */
function warmUp(trouble: string | null): void {
  if (trouble) return;
  try {
    const [newest] = trials.list(1);
    if (newest) void viewAhead(newest);
  } catch (error) {
    log().warn({ err: error }, "nothing was worked out ahead");
  }
}

void main();
