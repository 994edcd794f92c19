/** Moves as a viewer takes them, packed into bytes: a header of JSON with its length before it, then column by column. */
import { MoveTable } from "../gcode/moves";

/** What a viewer draws: moves of a stretch of layers. */
export interface MovePicture {
  count: number;
  x: Float32Array;
  y: Float32Array;
  z: Float32Array;
  /** See `MoveKind`. */
  kind: Uint8Array;
  layer: Int32Array;
  tool: Uint8Array;
  /** First move of each layer of the program; where the picture leaves a layer out, the same as the next. */
  layerStarts: Uint32Array;
  /** Where the kinds come from. */
  kindsFrom: "comments" | "geometry";
}

const columns = ["x", "y", "z", "layer", "layerStarts", "kind", "tool"] as const;

export function packMoves(
  moves: MoveTable,
  { kind, tool, layerStarts, kindsFrom }: Pick<MovePicture, "kind" | "tool" | "layerStarts" | "kindsFrom">,
  from: number,
  to: number,
): Uint8Array {
  const picture: Record<(typeof columns)[number], ArrayBufferView> = {
    x: moves.x.slice(from, to),
    y: moves.y.slice(from, to),
    z: moves.z.slice(from, to),
    layer: moves.layer.slice(from, to),
    layerStarts: layerStarts.map((start) => Math.min(Math.max(0, start - from), to - from)),
    kind: kind.slice(from, to),
    tool: tool.slice(from, to),
  };
  const header = new TextEncoder().encode(JSON.stringify({ count: to - from, layers: layerStarts.length, kindsFrom }));
  const padded = Math.ceil((header.length + 4) / 4) * 4;
  const size = columns.reduce((sum, name) => sum + picture[name].byteLength, padded);
  const bytes = new Uint8Array(size);
  new DataView(bytes.buffer).setUint32(0, header.length, true);
  bytes.set(header, 4);
  let at = padded;
  for (const name of columns) {
    const { buffer, byteOffset, byteLength } = picture[name];
    bytes.set(new Uint8Array(buffer, byteOffset, byteLength), at);
    at += byteLength;
  }
  return bytes;
}

export function unpackMoves(buffer: ArrayBuffer): MovePicture {
  const length = new DataView(buffer).getUint32(0, true);
  const header = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, length))) as {
    count: number;
    layers: number;
    kindsFrom: MovePicture["kindsFrom"];
  };
  const { count, layers, kindsFrom } = header;
  let at = Math.ceil((length + 4) / 4) * 4;
  const take = <A>(
    make: new (buffer: ArrayBuffer, offset: number, length: number) => A,
    rows: number,
    bytes: number,
  ): A => {
    const column = new make(buffer, at, rows);
    at += rows * bytes;
    return column;
  };
  return {
    count,
    kindsFrom,
    x: take(Float32Array, count, 4),
    y: take(Float32Array, count, 4),
    z: take(Float32Array, count, 4),
    layer: take(Int32Array, count, 4),
    layerStarts: take(Uint32Array, layers, 4),
    kind: take(Uint8Array, count, 1),
    tool: take(Uint8Array, count, 1),
  };
}
