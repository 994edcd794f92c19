/**
 * The path of a request as the router will see it. Whatever a router might read otherwise than it was checked (dots, empty parts, encoded
 * dots and slashes, backslashes, parameters) is no path here: what is checked and what is served are then the same letters.
 * After RFC 3986, sections 3.3 and 5.2.4.
 */

/** A dot, slash, backslash, percent sign behind its decoding, control character or semicolon that is spelled as a code. */
const hidden = /%(2e|2f|5c|3b|[01][0-9a-f]|7f)/i;

/** The path without its query, decoded once; null if it is not plain. */
export function plainPath(url: string): string | null {
  const raw = url.split(/[?#]/, 1)[0];
  if (raw === "/") return raw;
  if (!raw.startsWith("/") || hidden.test(raw)) return null;
  let path: string;
  try {
    path = decodeURIComponent(raw);
  } catch {
    return null;
  }
  // eslint-disable-next-line no-control-regex -- exactly those belong in no path
  if (/[\\;\x00-\x1f\x7f]/.test(path) || hidden.test(path)) return null;
  const isPlain = path
    .slice(1)
    .split("/")
    .every((part) => part !== "" && part !== "." && part !== "..");
  return isPlain ? path : null;
}
