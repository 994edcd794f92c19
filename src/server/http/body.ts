/** What a request brings: JSON of a bounded size, checked at the door. */
import { z } from "zod";
import { Refused } from "../refused";

/** Larger JSON bodies are refused before they are read. */
const MOST_JSON_BYTES = 4 << 20;

/** `application/json`, with or without parameters (RFC 8259, section 11; RFC 9110, section 8.3.1). */
function isJson(contentType: string | null): boolean {
  return (contentType ?? "").split(";")[0].trim().toLowerCase() === "application/json";
}

/** The JSON body, checked; refused with the first problem's sentence and field if it does not fit. */
export async function readBody<T>(request: Request, schema: z.ZodType<T>): Promise<T> {
  return checked(await readJson(request), schema);
}

/** The JSON body as text, for what is read elsewhere. */
export async function readJsonText(request: Request): Promise<string> {
  if (!isJson(request.headers.get("content-type"))) {
    throw new Refused("form", "Send JSON, with the header Content-Type: application/json.");
  }
  return readText(request, MOST_JSON_BYTES);
}

/** The JSON body as it came. */
async function readJson(request: Request): Promise<unknown> {
  const text = await readJsonText(request);
  try {
    return JSON.parse(text) as unknown;
  } catch {
    throw new Refused("invalid", "The body is not JSON. NaN and Infinity are not allowed in JSON.");
  }
}

const versionSchema = z
  .int({ error: "The version is a whole number: the one your copy of the record carries" })
  .min(1, "Versions count from 1")
  .optional();

/**
 * What a request wants changed, not yet checked, and the version of the record its sender saw: `version` in the body, or
 * `?version=` where the body is a list. Undefined if it names none.
 */
export async function readChange(request: Request): Promise<{ body: unknown; seen: number | undefined }> {
  const body = await readJson(request);
  const asked = new URL(request.url).searchParams.get("version");
  const named = isRecord(body) && "version" in body ? body.version : asked === null ? undefined : Number(asked);
  return { body, seen: checked({ version: named }, z.object({ version: versionSchema })).version };
}

/** A JSON object, neither list nor null. */
export function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

/** A value that fits the schema; refused with the first problem's sentence and field if it does not. */
export function checked<T>(value: unknown, schema: z.ZodType<T>): T {
  const parsed = schema.safeParse(value);
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  throw new Refused("invalid", issue.message, { field: issue.path.join(".") });
}

/** As `readBody`, where a request without a body stands for one that says nothing. */
export async function readOptionalBody<T>(request: Request, schema: z.ZodType<T>): Promise<T> {
  if (request.body === null || request.headers.get("content-length") === "0") return schema.parse({});
  return readBody(request, schema);
}

/** The body as bytes; refused as soon as it is larger than it may be. */
export async function readBytes(request: Request, mostBytes: number, what: string): Promise<Uint8Array> {
  const chunks: Uint8Array[] = [];
  for await (const chunk of boundedChunks(request, mostBytes, what)) chunks.push(chunk);
  return Buffer.concat(chunks);
}

async function readText(request: Request, mostBytes: number): Promise<string> {
  const decoder = new TextDecoder();
  let text = "";
  for await (const chunk of boundedChunks(request, mostBytes, "The body"))
    text += decoder.decode(chunk, { stream: true });
  return text + decoder.decode();
}

async function* boundedChunks(request: Request, mostBytes: number, what: string): AsyncGenerator<Uint8Array> {
  const tooLarge = () => new Refused("too-large", `${what} is larger than ${Math.floor(mostBytes / 1e6)} MB.`);
  if (Number(request.headers.get("content-length") ?? 0) > mostBytes) throw tooLarge();
  let size = 0;
  for await (const chunk of (request.body ?? []) as unknown as AsyncIterable<Uint8Array>) {
    size += chunk.length;
    if (size > mostBytes) throw tooLarge();
    yield chunk;
  }
}
