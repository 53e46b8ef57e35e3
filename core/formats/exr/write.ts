/**
 * OpenEXR files in scan lines, of one part or many, with any channels as halves, floats or whole numbers.
 * Source: the OpenEXR file layout document.
 *
 * @example
 * const bytes = writeExr(picture, { deflate: (b) => zlib.deflateSync(b), display: { width: 480, height: 270 } });
 */
import { halfOf } from '../../data/half.ts';
import type { Picture } from '../../data/picture.ts';
import { BYTES_OF, type ExrBlock } from './blocks.ts';
import { PACK, type Deflate, type WrittenCompression } from './compression/pack.ts';
import { EXR_COMPRESSIONS, type ExrChannel, type ExrType } from './header.ts';

export interface ExrPartOptions {
  /** The full frame; the picture's own window may be part of it. */
  display: { width: number; height: number };
  /** ZIP by default. */
  compression?: WrittenCompression;
  /** Number format of a channel, by its name in the picture; floats by default. */
  type?: (channel: string) => ExrType;
  /** Names in the file of channels that have others in the picture. */
  rename?: (channel: string) => string;
  /** Further attributes, as text. */
  attributes?: Record<string, string>;
  pixelAspect?: number;
}

export interface ExrOptions extends ExrPartOptions {
  deflate: Deflate;
}

const MAGIC = 20000630;
const VERSION = 2;
/** Names longer than 31 bytes. */
const LONG_NAMES = 0x400;
const MULTI_PART = 0x1000;
const TYPE_NUMBERS: Record<ExrType, number> = { uint: 0, half: 1, float: 2 };
/** Scan lines in a chunk. */
const LINES: Record<WrittenCompression, number> = { none: 1, RLE: 1, ZIPS: 1, ZIP: 16, PIZ: 32 };

/** A file of one part. @throws RangeError when two channels come to the same name */
export const writeExr = (picture: Picture, { deflate, ...options }: ExrOptions): Uint8Array =>
  writeFile([{ name: '', picture, options }], deflate);

/** A file of several parts, each with a name of its own. */
export function writeExrParts(
  parts: { name: string; picture: Picture; options: ExrPartOptions }[],
  deflate: Deflate,
): Uint8Array {
  const names = parts.map(({ name }) => name);
  if (names.includes('') || new Set(names).size < names.length)
    throw new RangeError('parts of one file need names, each its own');
  return writeFile(parts, deflate);
}

function writeFile(parts: { name: string; picture: Picture; options: ExrPartOptions }[], deflate: Deflate): Uint8Array {
  const isMulti = parts[0].name !== '';
  const made = parts.map((part, number) => makePart(part, isMulti ? number : null, deflate));
  const header = new ByteWriter();
  header.int32(MAGIC);
  header.int32(VERSION | (isMulti ? MULTI_PART : 0) | (made.some(({ isLong }) => isLong) ? LONG_NAMES : 0));
  for (const { attributes } of made) header.push(attributes);
  if (isMulti) header.byte(0);
  const all = made.flatMap(({ chunks }) => chunks);
  let offset = header.length + all.length * 8;
  const table = new ByteWriter();
  for (const chunk of all) {
    table.int64(offset);
    offset += chunk.length;
  }
  return join([header.bytes(), table.bytes(), ...all], offset);
}

/** @param number of the part in a file of several; null in a file of one */
function makePart(
  { name, picture, options }: { name: string; picture: Picture; options: ExrPartOptions },
  number: number | null,
  deflate: Deflate,
): { attributes: Uint8Array; chunks: Uint8Array[]; isLong: boolean } {
  const { display, rename, type = () => 'float' as const, compression = 'ZIP', attributes = {}, pixelAspect = 1 } = options; // prettier-ignore
  const { width, height, x, y } = picture;
  const planes = [...picture.channels].map(([own, plane]) => ({ name: rename?.(own) ?? own, plane, type: type(own) }));
  // The file's order of channels is that of their names.
  planes.sort((a, b) => (a.name < b.name ? -1 : 1));
  const names = planes.map((p) => p.name);
  if (new Set(names).size < names.length) throw new RangeError('two channels of the picture have the same name');
  const channels = planes.map((p): ExrChannel => ({ name: p.name, type: p.type, isPerceptual: false, xSampling: 1, ySampling: 1 })); // prettier-ignore

  const chunks: Uint8Array[] = [];
  for (let top = 0; top < height; top += LINES[compression]) {
    const lines = Math.min(LINES[compression], height - top);
    const block: ExrBlock = { minX: x, minY: y + top, maxX: x + width - 1, maxY: y + top + lines - 1 };
    const raw = linesOf(planes, width, top, lines);
    const packed = PACK[compression](raw, channels, block, deflate);
    // What does not become smaller is kept as it is.
    const data = packed.length < raw.length ? packed : raw;
    const chunk = new ByteWriter();
    if (number !== null) chunk.int32(number);
    chunk.int32(y + top);
    chunk.int32(data.length);
    chunk.push(data);
    chunks.push(chunk.bytes());
  }

  const header = new ByteWriter();
  const list = new ByteWriter();
  for (const channel of channels) {
    list.text(channel.name);
    list.int32(TYPE_NUMBERS[channel.type]);
    list.int32(0); // not perceptually linear, and three bytes reserved
    list.int32(1); // sampling in x and y
    list.int32(1);
  }
  list.byte(0);
  header.attribute('channels', 'chlist', list.bytes());
  header.attribute('compression', 'compression', Uint8Array.of(EXR_COMPRESSIONS.indexOf(compression)));
  header.attribute('dataWindow', 'box2i', int32s(x, y, x + width - 1, y + height - 1));
  header.attribute('displayWindow', 'box2i', int32s(0, 0, display.width - 1, display.height - 1));
  header.attribute('lineOrder', 'lineOrder', Uint8Array.of(0));
  header.attribute('pixelAspectRatio', 'float', float32s(pixelAspect));
  header.attribute('screenWindowCenter', 'v2f', float32s(0, 0));
  header.attribute('screenWindowWidth', 'float', float32s(1));
  if (number !== null) {
    header.attribute('name', 'string', utf8(name));
    header.attribute('type', 'string', utf8('scanlineimage'));
    header.attribute('chunkCount', 'int', int32s(chunks.length));
  }
  for (const [key, value] of Object.entries(attributes)) header.attribute(key, 'string', utf8(value));
  header.byte(0);
  return { attributes: header.bytes(), chunks, isLong: [...names, ...Object.keys(attributes)].some((n) => n.length > 31) }; // prettier-ignore
}

/** Bytes of some lines: line by line, and in each line channel by channel. */
function linesOf(
  planes: { plane: Float32Array; type: ExrType }[],
  width: number,
  top: number,
  lines: number,
): Uint8Array {
  const raw = new Uint8Array(lines * width * planes.reduce((sum, { type }) => sum + BYTES_OF[type], 0));
  let at = 0;
  for (let line = top; line < top + lines; line++)
    for (const { plane, type } of planes) {
      const values = plane.subarray(line * width, (line + 1) * width);
      const numbers = type === 'half' ? halvesOf(values) : type === 'float' ? values : Uint32Array.from(values);
      raw.set(new Uint8Array(numbers.buffer, numbers.byteOffset, numbers.byteLength), at);
      at += numbers.byteLength;
    }
  return raw;
}

function halvesOf(values: Float32Array): Uint16Array {
  const halves = new Uint16Array(values.length);
  for (let i = 0; i < halves.length; i++) halves[i] = halfOf(values[i]);
  return halves;
}

const utf8 = (text: string) => new TextEncoder().encode(text);
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
