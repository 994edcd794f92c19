/**
 * The checksum of a transmitted line: XOR of all bytes before the `*`. Common practice, no source.
 *
 * @example
 * xorChecksum(bytesOf("N7 M105")); // 32
 */
export function xorChecksum(bytes: Uint8Array, from = 0, to = bytes.length): number {
  let sum = 0;
  for (let at = from; at < to; at++) sum ^= bytes[at];
  return sum;
}

/** A line as it is transmitted: number, command, checksum. */
export function numberedLine(number: number, command: string): string {
  const line = `N${number} ${command}`;
  return `${line}*${xorChecksum(new TextEncoder().encode(line))}`;
}
