/** In front of everything: whatever comes in over HTTP passes here first, and every answer carries the same headers. */
import type { IncomingMessage, ServerResponse } from "node:http";
import { storageTrouble } from "../db/trouble";
import { callerOf } from "./devices";
import { plainPath } from "./plain-path";
import { CALLER_HEADER, Rank, RANK_HEADER, refuseRank } from "../who";

/** Carried by every answer, files and errors too; pages get a policy of their own on top (`proxy.ts`). */
const headers: [string, string][] = [
  ["X-Content-Type-Options", "nosniff"],
  ["X-Frame-Options", "DENY"],
  ["Referrer-Policy", "no-referrer"],
];

const STRICT = "default-src 'none'; frame-ancestors 'none'";
/** A worker lives by the policy its own script came with: it loads its other scripts, from here. */
const SCRIPTS = `${STRICT}; script-src 'self'; connect-src 'self'`;

const methods = ["GET", "HEAD", "POST", "PUT", "DELETE", "OPTIONS"];

/** Answers with an error of the one form all errors have. */
export function answerError(response: ServerResponse, status: number, kind: string, message: string): void {
  const body = JSON.stringify({ error: { kind, message } });
  response.statusCode = status;
  response.setHeader("Content-Type", "application/json; charset=utf-8");
  response.setHeader("Cache-Control", "no-store");
  response.setHeader("Content-Length", Buffer.byteLength(body));
  response.end(body);
}

/** What anybody may have: the page that asks for the code, and the files it is built of. */
const open = { names: ["/let-in", "/icon.svg"], beginnings: ["/_next/static/chunks/", "/_next/static/media/"] };

/** The rank a path asks for in front; routes of the interface say it themselves (`handle`). */
function rankFor(path: string): Rank {
  if (path.startsWith("/api/")) return "stranger";
  const isOpen = open.names.includes(path) || open.beginnings.some((beginning) => path.startsWith(beginning));
  return isOpen ? "stranger" : "reader";
}

/** A request that is answered here and goes no further: true if it was. */
export function answeredInFront(request: IncomingMessage, response: ServerResponse): boolean {
  for (const [name, value] of headers) response.setHeader(name, value);
  const { method = "GET", url = "/" } = request;
  const path = plainPath(url);
  response.setHeader("Content-Security-Policy", path?.startsWith("/_next/static/") ? SCRIPTS : STRICT);
  if (path === null) {
    answerError(response, 404, "missing", "There is nothing at this address.");
    return true;
  }
  if (!methods.includes(method)) {
    response.setHeader("Allow", methods.join(", "));
    answerError(response, 405, "invalid", `${method.slice(0, 20)} is not known here.`);
    return true;
  }
  let who: ReturnType<typeof callerOf>;
  try {
    who = callerOf(request.socket.remoteAddress, request.headers.cookie);
  } catch (error) {
    answerError(response, 503, "storage", storageTrouble(error) ?? "The database cannot be used; the log says more.");
    return true;
  }
  // Whatever was sent under these names is no more.
  request.headers[RANK_HEADER] = who.rank;
  request.headers[CALLER_HEADER] = who.caller;
  const refusal = refuseRank(who.rank, rankFor(path));
  if (refusal === null) return false;
  if (method === "GET") {
    response.statusCode = 303;
    response.setHeader("Location", "/let-in");
    response.end();
  } else answerError(response, 403, "stranger", refusal);
  return true;
}

/** An answer of the framework that a method is not possible comes without a word; under /api it gets its sentence. */
export function giveBodies(request: IncomingMessage, response: ServerResponse): void {
  if (!request.url?.startsWith("/api/") || request.method === "HEAD") return;
  const writeHead = response.writeHead.bind(response);
  const end = response.end.bind(response);
  let isBare = false;
  response.writeHead = ((...given: Parameters<typeof writeHead>) => {
    isBare = given[0] === 405 && !response.hasHeader("Content-Type");
    if (isBare) response.setHeader("Content-Type", "application/json; charset=utf-8");
    return writeHead(...given);
  }) as typeof writeHead;
  response.end = ((...given: Parameters<typeof end>) => {
    if (!response.headersSent) response.writeHead(response.statusCode);
    if (!isBare) return end(...given);
    isBare = false;
    const message = `${request.method} is not possible at this address.`;
    return end(JSON.stringify({ error: { kind: "invalid", message } }));
  }) as typeof end;
}
