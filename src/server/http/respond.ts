/** The common part of all route handlers: JSON in and out, one shape of error, nothing that throws reaches the client raw. */
import pino from "pino";
import { z } from "zod";
import { Finding } from "@/core/findings/finding";
import { refuseForeign } from "../guard";
import { Cancelled } from "../tasks/pool";

export const log = pino({ name: "cuchara", level: process.env.CUCHARA_LOG ?? "warn" });

/** Larger JSON bodies are refused before they are read. */
const MOST_JSON_BYTES = 4 << 20;

/** An error with the status and sentence the client shall see. */
export class HttpError extends Error {
  // Route handlers are bundled apart from one another, each with a class of its own: the name tells it, not the class.
  override readonly name = "HttpError";

  constructor(
    readonly status: number,
    message: string,
    readonly details: { field?: string; findings?: Finding[] } = {},
  ) {
    super(message);
  }
}

/** Programs that would do harm are not handed out: a 422 with what is wrong. */
export function refuseHarm(findings: readonly Finding[]): void {
  const stops = findings.filter(({ severity }) => severity === "stop");
  if (stops.length === 0) return;
  throw new HttpError(422, `This file would do harm, so it is not handed out. ${stops[0].message}`, {
    findings: stops,
  });
}

function isHttpError(error: unknown): error is HttpError {
  return error instanceof Error && error.name === "HttpError";
}

export const notFound = (what: string) => new HttpError(404, `${what} It may have been removed.`);

/** Answers with JSON. */
export function json(body: unknown, status = 200): Response {
  return Response.json(body, { status, headers: { "Cache-Control": "no-store" } });
}

interface Context {
  params: Promise<Record<string, string>>;
}

/** Wraps a handler: requests from elsewhere are refused, known errors become `{error: {message, field?, findings?}}`, unknown ones a logged 500. */
export function handle(act: (request: Request, params: Record<string, string>) => Promise<Response> | Response) {
  return async (request: Request, context: Context): Promise<Response> => {
    try {
      const { headers } = request;
      const refusal = refuseForeign(
        { host: headers.get("host"), origin: headers.get("origin"), site: headers.get("sec-fetch-site") },
        process.env.HOST,
      );
      if (refusal) throw new HttpError(403, refusal);
      return await act(request, (await context.params) ?? {});
    } catch (error) {
      if (isHttpError(error)) {
        return json({ error: { message: error.message, ...error.details } }, error.status);
      }
      if (error instanceof Cancelled || request.signal.aborted) {
        return json({ error: { message: "Cancelled." } }, 499);
      }
      log.error({ err: error, path: new URL(request.url).pathname }, "request failed");
      return json(
        { error: { message: "Something went wrong inside Cuchara. Nothing was changed; the log says more." } },
        500,
      );
    }
  };
}

/** The id in a path: unknown ones and words alike are a 404. */
export function pathId(params: Record<string, string>, what: string): number {
  const id = Number(params.id);
  if (!Number.isInteger(id) || id <= 0 || id > Number.MAX_SAFE_INTEGER)
    throw notFound(`There is no ${what} “${params.id.slice(0, 40)}”.`);
  return id;
}

/** The JSON body, checked; a 400 with the first problem's sentence and field if it does not fit. */
export async function readBody<T>(request: Request, schema: z.ZodType<T>): Promise<T> {
  const type = request.headers.get("content-type") ?? "";
  if (!type.toLowerCase().includes("json")) {
    throw new HttpError(415, "Send JSON, with the header Content-Type: application/json.");
  }
  const text = await readText(request, MOST_JSON_BYTES);
  let body: unknown;
  try {
    body = JSON.parse(text);
  } catch {
    throw new HttpError(400, "The body is not JSON. Numbers must be plain figures: NaN and Infinity are not JSON.");
  }
  const parsed = schema.safeParse(body);
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  throw new HttpError(400, issue.message, { field: issue.path.join(".") });
}

/** As `readBody`, where a request without a body stands for one that says nothing. */
export async function readOptionalBody<T>(request: Request, schema: z.ZodType<T>): Promise<T> {
  if (request.body === null || request.headers.get("content-length") === "0") return schema.parse({});
  return readBody(request, schema);
}

async function readText(request: Request, mostBytes: number): Promise<string> {
  const tooLarge = () => new HttpError(413, `The body is larger than ${mostBytes >> 20} MB.`);
  if (Number(request.headers.get("content-length") ?? 0) > mostBytes) throw tooLarge();
  const decoder = new TextDecoder();
  let text = "";
  let size = 0;
  for await (const chunk of (request.body ?? []) as unknown as AsyncIterable<Uint8Array>) {
    size += chunk.length;
    if (size > mostBytes) throw tooLarge();
    text += decoder.decode(chunk, { stream: true });
  }
  return text + decoder.decode();
}

/** A name that is safe as a download's file name. */
export function fileName(name: string): string {
  return (
    name
      .replace(/[^\p{L}\p{N} ._-]+/gu, "-")
      .trim()
      .slice(0, 80) || "program"
  );
}

/** Headers of a program that is to be saved. */
export function attachment(name: string, sizeBytes?: number): Record<string, string> {
  const plain = fileName(name).replace(/[^\x20-\x7e]/g, "_");
  return {
    "Content-Type": "text/x.gcode; charset=utf-8",
    "Content-Disposition": `attachment; filename="${plain}"; filename*=UTF-8''${encodeURIComponent(fileName(name))}`,
    "Cache-Control": "no-store",
    ...(sizeBytes === undefined ? {} : { "Content-Length": String(sizeBytes) }),
  };
}
