/** The common part of all route handlers: JSON out, one shape of error, nothing that throws reaches the client raw. */
import { Finding } from "@/core/findings/finding";
import { refuseForeign } from "../front/guard";
import { Rank, RANK_HEADER, rankIn, refuseRank } from "../who";
import { log } from "../log";
import { isRefused, missing, RefusalKind, Refused } from "../refused";
import { storageTrouble } from "../db/trouble";
import { Cancelled } from "../tasks/pool";

/** The one place where a refusal becomes a status (RFC 9110, section 15). */
const statusOf: Record<RefusalKind, number> = {
  invalid: 400,
  stranger: 403,
  missing: 404,
  conflict: 409,
  "too-large": 413,
  form: 415,
  unreadable: 422,
  harmful: 422,
  unreachable: 502,
  busy: 503,
  storage: 503,
};

/** Answers with JSON. */
export function json(body: unknown, status = 200): Response {
  return Response.json(body, { status, headers: { "Cache-Control": "no-store" } });
}

/** Answers with JSON that is text already. */
export function jsonText(text: string): Response {
  return new Response(text, { headers: { "Content-Type": "application/json", "Cache-Control": "no-store" } });
}

/** Answers a refusal: `{error: {kind, message, field?, findings?, current?}}`. */
export function refusalResponse({ kind, message, details }: Refused): Response {
  return json({ error: { kind, message, ...details } }, statusOf[kind]);
}

/** Programs that would do harm are not handed out. */
export function refuseHarm(findings: readonly Finding[]): void {
  const stops = findings.filter(({ severity }) => severity === "stop");
  if (stops.length === 0) return;
  throw new Refused("harmful", `This file would do harm, so it is not handed out. ${stops[0].message}`, {
    findings: stops,
  });
}

interface Context {
  params: Promise<Record<string, string>>;
}

type Act = (request: Request, params: Record<string, string>) => Promise<Response> | Response;

/** A route handler, and who may call it. */
export interface Handler {
  (request: Request, context: Context): Promise<Response>;
  readonly who: Rank;
}

/**
 * Wraps a handler: who may not call it and requests from elsewhere are refused, known errors answered as they are, unknown ones logged
 * and a 500.
 */
export function handle(act: Act, { who }: { who: Rank }): Handler {
  const answer = async (request: Request, context: Context): Promise<Response> => {
    try {
      const { headers } = request;
      const refusal =
        refuseRank(rankIn(headers.get(RANK_HEADER)), who) ??
        refuseForeign(
          { host: headers.get("host"), origin: headers.get("origin"), site: headers.get("sec-fetch-site") },
          process.env.HOST,
        );
      if (refusal) throw new Refused("stranger", refusal);
      return await act(request, (await context.params) ?? {});
    } catch (error) {
      if (isRefused(error)) return refusalResponse(error);
      if (error instanceof Cancelled || request.signal.aborted) {
        return json({ error: { message: "Cancelled." } }, 499);
      }
      const path = new URL(request.url).pathname;
      log().error({ err: error, path }, "request failed");
      const trouble = storageTrouble(error);
      if (trouble) return refusalResponse(new Refused("storage", trouble));
      return json(
        { error: { message: "Something went wrong inside Cuchara. Nothing was changed; the log says more." } },
        500,
      );
    }
  };
  return Object.assign(answer, { who });
}

/** Ids are whole numbers from 1, written plainly: no sign, no zero in front, no exponent. */
export function plainId(text: string): number | null {
  return /^[1-9]\d{0,14}$/.test(text) ? Number(text) : null;
}

/** The pair in a request's query; whatever is none is refused. */
export function pairOf(request: Request): { printerId: number; spoolId: number } {
  const { pathname, searchParams } = new URL(request.url);
  const [printerId, spoolId] = ["printerId", "spoolId"].map((name) => plainId(searchParams.get(name) ?? ""));
  if (printerId === null || spoolId === null) {
    throw new Refused("invalid", `Say for which pair: ${pathname}?printerId=1&spoolId=1`);
  }
  return { printerId, spoolId };
}

/** The id in a path; whatever is none is a 404. */
export function pathId(params: Record<string, string>, what: string, name = "id"): number {
  const id = plainId(params[name]);
  if (id === null) throw missing(`There is no ${what} “${params[name].slice(0, 40)}”.`);
  return id;
}
