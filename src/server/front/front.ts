/** In front of everything: whatever comes in over HTTP passes here first, and every answer carries the same headers. */
import type { IncomingMessage, ServerResponse } from "node:http";
import { storageTrouble } from "../db/trouble";
import { deviceOf, isThisMachine, refuseDevice, tokenIn } from "./devices";

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

/** The path as it is meant, without its query; null if it cannot be read (RFC 3986, 2.1). */
function pathOf(url: string): string | null {
  try {
    return decodeURIComponent(url.split("?", 1)[0]);
  } catch {
    return null;
  }
}

/** A request that is answered here and goes no further: true if it was. */
export function answeredInFront(request: IncomingMessage, response: ServerResponse): boolean {
  for (const [name, value] of headers) response.setHeader(name, value);
  const { method = "GET", url = "/" } = request;
  response.setHeader("Content-Security-Policy", url.startsWith("/_next/static/") ? SCRIPTS : STRICT);
  const path = pathOf(url);
  if (path === null) {
    answerError(response, 400, "invalid", "The address cannot be read: a percent sign in it stands for nothing.");
    return true;
  }
  if (!methods.includes(method)) {
    response.setHeader("Allow", methods.join(", "));
    answerError(response, 405, "invalid", `${method.slice(0, 20)} is not known here.`);
    return true;
  }
  // eslint-disable-next-line no-control-regex -- exactly those belong in no path
  if (/^\/+api(\/|$)/.test(path) && (/\/\/|\\|\/$|[\x00-\x1f\x7f]/.test(path) || /(^|\/)\.\.?(\/|$)/.test(path))) {
    answerError(response, 404, "missing", "There is nothing at this address.");
    return true;
  }
  if (isThisMachine(request.socket.remoteAddress)) return false;
  return refusedDevice(request, response, path);
}

function refusedDevice(request: IncomingMessage, response: ServerResponse, path: string): boolean {
  let refusal: string | null;
  let known = false;
  try {
    const device = deviceOf(tokenIn(request.headers.cookie));
    known = device !== null;
    refusal = refuseDevice(device, request.method ?? "GET", path);
  } catch (error) {
    answerError(response, 503, "storage", storageTrouble(error) ?? "The database cannot be used; the log says more.");
    return true;
  }
  if (refusal === null) return false;
  if (!known && !path.startsWith("/api/") && request.method === "GET") {
    response.statusCode = 303;
    response.setHeader("Location", "/let-in");
    response.end();
    return true;
  }
  answerError(response, 403, "stranger", refusal);
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
