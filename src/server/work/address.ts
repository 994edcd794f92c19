/** Where this program can be reached from another device of the home network. */
import { networkInterfaces } from "node:os";

const isEverywhere = (host: string) => host === "0.0.0.0" || host === "::";
const isHere = (host: string) => /^(localhost|127\..*|\[?::1\]?)$/.test(host);

/** `http://192.168.0.7:4747`, or null where only this machine reaches it. */
export function networkAddress(): string | null {
  const { HOST: host = "127.0.0.1", PORT: port = "" } = process.env;
  if (isHere(host)) return null;
  if (!isEverywhere(host)) return `http://${host}:${port}`;
  const all = Object.values(networkInterfaces()).flatMap((addresses) => addresses ?? []);
  const found = all.find(({ family, internal }) => family === "IPv4" && !internal);
  return found ? `http://${found.address}:${port}` : null;
}

/** As near to it as there is: the address the asking page itself was reached at, where no other device reaches it. */
export const anyAddress = (request: Request) =>
  networkAddress() ?? `http://${request.headers.get("host") ?? new URL(request.url).host}`;
