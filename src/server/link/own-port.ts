/** A link never talks to this program itself. */
import { lookup } from "node:dns/promises";
import { isIP } from "node:net";
import { networkInterfaces } from "node:os";

const isLoopback = (address: string) => /^127\.|^::1$|^0\.0\.0\.0$|^::$|^::ffff:127\./.test(address);

/** Throws an error with a sentence if host and port are where this program listens. */
export async function refuseOwnPort(host: string, port: number): Promise<void> {
  if (port !== Number(process.env.PORT)) return;
  const address = isIP(host)
    ? host
    : await lookup(host).then(
        ({ address: found }) => found,
        () => "",
      );
  const own = Object.values(networkInterfaces()).flatMap((addresses) => addresses ?? []);
  if (isLoopback(address) || own.some(({ address: mine }) => mine === address)) {
    throw new Error(`${host}:${port} is Cuchara itself. Give the printer's address.`);
  }
}
