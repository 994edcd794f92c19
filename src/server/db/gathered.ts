/** Small pieces gathered into chunks as large as they are stored. */
export function* gathered(pieces: Iterable<Uint8Array>, chunkBytes: number): Generator<Uint8Array> {
  let chunk = new Uint8Array(chunkBytes);
  let filled = 0;
  for (const piece of pieces) {
    for (let at = 0; at < piece.length;) {
      const taken = Math.min(piece.length - at, chunkBytes - filled);
      chunk.set(piece.subarray(at, at + taken), filled);
      filled += taken;
      at += taken;
      if (filled < chunkBytes) continue;
      yield chunk;
      chunk = new Uint8Array(chunkBytes);
      filled = 0;
    }
  }
  if (filled > 0) yield chunk.slice(0, filled);
}
