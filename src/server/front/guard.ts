/** Who may talk to this server: the page it served itself, under a name of its own. */

/** The names this server answers to, besides `HOST`. */
const ownNames = new Set(["127.0.0.1", "localhost", "[::1]"]);

function hostName(host: string): string {
  return host.replace(/:\d+$/, "").toLowerCase();
}

/**
 * Why a request is refused, or null if it is fine. A foreign Host means a name of somebody else's was pointed at this machine;
 * a foreign Origin means another site's page is asking.
 */
export function refuseForeign(
  headers: { host: string | null; origin: string | null; site: string | null },
  ownHost: string | undefined,
): string | null {
  const { host, origin, site } = headers;
  if (!host) return "The request does not say which host it is for.";
  const name = hostName(host);
  const anyName = ownHost === "0.0.0.0" || ownHost === "::";
  const isAddress = /^(\d{1,3}(\.\d{1,3}){3}|\[[0-9a-f:]+\])$/.test(name);
  if (!ownNames.has(name) && name !== ownHost?.toLowerCase() && !(anyName && isAddress)) {
    return `This server does not answer to the name “${name.slice(0, 80)}”.`;
  }
  if (origin !== null && origin !== "null") {
    // Scheme, host and port and nothing else (RFC 6454, 6.1): this server speaks plain HTTP only.
    if (origin.toLowerCase() !== `http://${host.toLowerCase()}`) return "Requests from other sites are refused.";
  } else if (origin === "null" || site === "cross-site" || site === "same-site") {
    // `same-site` is another port of this machine: a page of some other program's.
    return "Requests from other sites are refused.";
  }
  return null;
}
