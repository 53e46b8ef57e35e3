/**
 * OpenEXR files of one part in scan lines, with any channels, 32-bit floats, ZIP-compressed.
 * Source: the OpenEXR file layout document (header attributes, chunk table, ZIP's reordering and differences).
 *
 * @example
 * const bytes = writeExr(picture, { deflate: (b) => zlib.deflateSync(b), display: { width: 480, height: 270 } });
 */
import type { Picture } from '../../data/picture.ts';

export interface ExrOptions {
  /** zlib stream of some bytes (RFC 1950). */
  deflate: (bytes: Uint8Array) => Uint8Array;
  /** The full frame; the picture's own window may be part of it. */
  display: { width: number; height: number };
  /** Names in the file of channels that have others in the picture. */
  rename?: (channel: string) => string;
  /** Further attributes, as text. */
  attributes?: Record<string, string>;
}

const MAGIC = 20000630;
const VERSION = 2;
/** Names longer than 31 bytes. */
const LONG_NAMES = 0x400;
const FLOAT = 2;
const ZIP = 3;
const ZIP_LINES = 16;

export function writeExr(picture: Picture, { deflate, display, rename, attributes }: ExrOptions): Uint8Array {
  const { width, height, x, y } = picture;
  const planes = [...picture.channels].map(([name, plane]) => ({ name: rename?.(name) ?? name, plane }));
  // The file's order of channels is that of their names.
  planes.sort((a, b) => (a.name < b.name ? -1 : 1));
  const names = planes.map((p) => p.name);
  if (new Set(names).size < names.length) throw new RangeError('two channels of the picture have the same name');

  const header = new ByteWriter();
  header.int32(MAGIC);
  header.int32(VERSION | ([...names, ...Object.keys(attributes ?? {})].some((n) => n.length > 31) ? LONG_NAMES : 0));
  const channelList = new ByteWriter();
  for (const name of names) {
    channelList.text(name);
    channelList.int32(FLOAT);
    channelList.int32(0); // not perceptually linear, and three bytes reserved
    channelList.int32(1); // sampling in x and y
    channelList.int32(1);
  }
  channelList.byte(0);
  header.attribute('channels', 'chlist', channelList.bytes());
  header.attribute('compression', 'compression', Uint8Array.of(ZIP));
  header.attribute('dataWindow', 'box2i', int32s(x, y, x + width - 1, y + height - 1));
  header.attribute('displayWindow', 'box2i', int32s(0, 0, display.width - 1, display.height - 1));
  header.attribute('lineOrder', 'lineOrder', Uint8Array.of(0));
  header.attribute('pixelAspectRatio', 'float', float32s(1));
  header.attribute('screenWindowCenter', 'v2f', float32s(0, 0));
  header.attribute('screenWindowWidth', 'float', float32s(1));
  for (const [name, value] of Object.entries(attributes ?? {}))
    header.attribute(name, 'string', new TextEncoder().encode(value));
  header.byte(0);

  const chunks: Uint8Array[] = [];
  for (let top = 0; top < height; top += ZIP_LINES) {
    const lines = Math.min(ZIP_LINES, height - top);
    const raw = new Uint8Array(lines * width * planes.length * 4);
    const view = new DataView(raw.buffer);
    let at = 0;
    for (let line = top; line < top + lines; line++)
      for (const { plane } of planes)
        for (let column = 0; column < width; column++, at += 4) view.setFloat32(at, plane[line * width + column], true);
    const packed = deflate(zipOrder(raw));
    // What does not become smaller is kept as it is.
    const data = packed.length < raw.length ? packed : raw;
    const chunk = new ByteWriter();
    chunk.int32(y + top);
    chunk.int32(data.length);
    chunk.push(data);
    chunks.push(chunk.bytes());
  }
  let offset = header.length + chunks.length * 8;
  const table = new ByteWriter();
  for (const chunk of chunks) {
    table.int64(offset);
    offset += chunk.length;
  }
  return join([header.bytes(), table.bytes(), ...chunks], offset);
}

/** Even bytes first and odd ones after, then each as its difference from the one before. */
function zipOrder(raw: Uint8Array): Uint8Array {
  const out = new Uint8Array(raw.length);
  const half = Math.ceil(raw.length / 2);
  for (let i = 0; i < raw.length; i++) out[(i & 1 ? half : 0) + (i >> 1)] = raw[i];
  for (let i = out.length - 1; i > 0; i--) out[i] = out[i] - out[i - 1] + 128;
  return out;
}

const int32s = (...values: number[]) => new Uint8Array(Int32Array.from(values).buffer);
const float32s = (...values: number[]) => new Uint8Array(Float32Array.from(values).buffer);

function join(parts: Uint8Array[], length: number): Uint8Array {
  const out = new Uint8Array(length);
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

/** Bytes put one after another, numbers little-endian. */
class ByteWriter {
  length = 0;
  private readonly parts: Uint8Array[] = [];

  push(part: Uint8Array): void {
    this.parts.push(part);
    this.length += part.length;
  }

  byte(value: number): void {
    this.push(Uint8Array.of(value));
  }

  int32(value: number): void {
    this.push(int32s(value));
  }

  int64(value: number): void {
    this.push(new Uint8Array(BigInt64Array.of(BigInt(value)).buffer));
  }

  /** With a zero at its end. */
  text(value: string): void {
    this.push(new TextEncoder().encode(`${value}\0`));
  }

  attribute(name: string, type: string, value: Uint8Array): void {
    this.text(name);
    this.text(type);
    this.int32(value.length);
    this.push(value);
  }

  bytes(): Uint8Array {
    return join(this.parts, this.length);
  }
}
