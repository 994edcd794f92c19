/**
 * Who of the home network gets in. This machine itself always does. Another device shows a code once that the bench gave it, and carries a
 * token from then on; what it may do was said when the code was given, and can be changed at the bench.
 */
import { createHash, randomBytes, randomInt } from "node:crypto";
import { devices, Device } from "../db/devices";
import { Refused } from "../refused";
import { Rank, rankOfRight, Right } from "../who";

/** A code is good for so long … */
export const CODE_LIVES_MS = 5 * 60_000;
/** … and so many tries a caller, so that nobody spends the tries of another … */
export const MOST_TRIES = 5;
/** … and so many of all together: of a hundred million codes, guessing one is as likely as 1 in a million. */
export const MOST_TRIES_OF_ALL = 100;
/** How many digits a code has. */
const CODE_DIGITS = 8;

interface Code {
  text: string;
  /** What the device that knows it may do. */
  may: Right;
  untilMs: number;
  /** Wrong tries by caller. */
  tries: Map<string, number>;
}

const NO_TRIES_LEFT = "That was not the code, and this device has no try left. Ask for a new code at the bench.";

// One code per process; route handlers are loaded apart from one another.
const shared = globalThis as { cucharaCode?: Code | null };

/** A new code of eight digits; the one before is void. */
export function showCode(may: Right, nowMs = Date.now()): { code: string; may: Right; untilMs: number } {
  shared.cucharaCode = {
    text: String(randomInt(10 ** CODE_DIGITS)).padStart(CODE_DIGITS, "0"),
    may,
    untilMs: nowMs + CODE_LIVES_MS,
    tries: new Map(),
  };
  return { code: shared.cucharaCode.text, may, untilMs: shared.cucharaCode.untilMs };
}

/**
 * Lets a device in that knows the code: gives the token it carries from now on.
 *
 * @param caller who tries: the address, for whoever has no token yet
 */
export function letIn(
  typed: string,
  name: string,
  caller: string,
  nowMs = Date.now(),
): { token: string; device: Device } {
  const code = shared.cucharaCode;
  const spent = code ? [...code.tries.values()].reduce((sum, tries) => sum + tries, 0) : 0;
  if (!code || code.untilMs < nowMs || spent >= MOST_TRIES_OF_ALL) {
    shared.cucharaCode = null;
    throw new Refused(
      "stranger",
      "No code is good just now. Ask for one at the bench: Shelf, This program, Let a device in; or npm run let-in on its machine.",
      { field: "code" },
    );
  }
  const own = code.tries.get(caller) ?? 0;
  if (own >= MOST_TRIES) throw new Refused("stranger", NO_TRIES_LEFT, { field: "code" });
  if (typed !== code.text) {
    code.tries.set(caller, own + 1);
    const left = MOST_TRIES - own - 1;
    throw new Refused(
      "stranger",
      left > 0 ? `That is not the code. ${left} ${left === 1 ? "try is" : "tries are"} left.` : NO_TRIES_LEFT,
      { field: "code" },
    );
  }
  shared.cucharaCode = null;
  const token = randomBytes(32).toString("base64url");
  return { token, device: devices.add(name, hashOf(token), code.may) };
}

/** The device that carries a token; null for a stranger. */
export function deviceOf(token: string | null): Device | null {
  return token === null ? null : devices.byHash(hashOf(token));
}

const hashOf = (token: string) => createHash("sha256").update(token).digest("hex");

export const COOKIE = "cuchara_device";

/** The token in a Cookie header (RFC 6265); null if there is none. */
export function tokenIn(cookies: string | undefined): string | null {
  for (const pair of (cookies ?? "").split(";")) {
    const [name, value] = pair.trim().split("=");
    if (name === COOKIE && value) return value;
  }
  return null;
}

/** Addresses by which a machine reaches itself (RFC 1122, 3.2.1.3; RFC 4291, 2.5.3; mapped as in 2.5.5.2). */
export function isThisMachine(address: string | undefined): boolean {
  return /^(::ffff:)?127\.|^::1$/.test(address ?? "");
}

/** Whoever calls from an address with a Cookie header: its rank, and a name that is its own. */
export function callerOf(address: string | undefined, cookies: string | undefined): { rank: Rank; caller: string } {
  if (isThisMachine(address)) return { rank: "bench", caller: "bench" };
  const device = deviceOf(tokenIn(cookies));
  return device
    ? { rank: rankOfRight[device.may], caller: `device ${device.id}` }
    : { rank: "stranger", caller: `stranger ${address ?? ""}` };
}
