/**
 * OpenEXR pictures: one part or many, scan lines or tiles (the full level), every compression, any channels. What is
 * cut short is read as far as it goes, and said.
 *
 * @example
 * const { parts } = readExr(bytes, 'beauty.1001.exr', { inflate });
 * const red = parts[0].planes.get('beauty.R');
 */
import { HALF_TO_FLOAT } from '../../data/half.ts';
import { blocksOf, BYTES_OF, chunkCount, rawSize, samplesIn, type ExrBlock } from './blocks.ts';
import type { Inflate } from './compression/compression.ts';
import { UNPACK } from './compression/registry.ts';
import { readExrHeader, type ExrChannel, type ExrPart } from './header.ts';
import { ExrReading } from './reading.ts';

/** Row-major over the data window; channels that are sampled more coarsely repeat their samples. */
export type ExrPlane = Float32Array | Uint32Array;

export interface ExrPicture extends ExrPart {
  width: number;
  height: number;
  planes: Map<string, ExrPlane>;
  /** Chunks that are not there: their pixels are 0. */
  missingChunks: number;
  /** Sentences about chunks that could not be read, the first few. */
  broken: string[];
}

export interface ExrFile {
  isMultiPart: boolean;
  parts: ExrPicture[];
}

export interface ReadExrOptions {
  inflate: Inflate;
  /** Channels that are wanted; all by default. Others are not turned into planes. */
  want?: (part: ExrPart, channel: string) => boolean;
}

/** Bytes that planes of a file may take. */
const MOST_BYTES = 8 * 2 ** 30;
/** No packing makes so much of one byte. */
const MOST_RATIO = 2 ** 15;
const MOST_TOLD = 8;

/** @param where the file's name in messages. @throws RangeError naming file, part and byte */
export function readExr(bytes: Uint8Array, where: string, { inflate, want = () => true }: ReadExrOptions): ExrFile {
  const { parts, isMultiPart, end } = readExrHeader(bytes, where);
  const reading = new ExrReading(bytes, where);
  reading.at = end;
  checkSizes(reading, parts);
  const tables = parts.map((part, number) => readTable(reading, part, number));
  return {
    isMultiPart,
    parts: parts.map((part, number) => {
      if (part.isDeep) return emptyPicture(part, new Map());
      return readPart(reading, part, number, tables[number], { isMultiPart, inflate, want });
    }),
  };
}

/** Before any memory is taken for pixels. */
function checkSizes(reading: ExrReading, parts: ExrPart[]): void {
  let planes = 0;
  let raw = 0;
  parts.forEach((part, number) => {
    if (part.isDeep) return;
    const { minX, minY, maxX, maxY } = part.dataWindow;
    planes += (maxX - minX + 1) * (maxY - minY + 1) * part.channels.length * 4;
    raw += rawSize(part.channels, part.dataWindow);
    if (planes > MOST_BYTES) reading.refuse(`part ${number} brings the file to more pixels than ${MOST_BYTES / 2 ** 30} GB hold`); // prettier-ignore
    if (raw > reading.bytes.length * MOST_RATIO)
      reading.refuse(
        `part ${number} claims ${raw} bytes of pixels, which a file of ${reading.bytes.length} cannot hold`,
      );
    const chunks = part.chunks ?? chunkCount(part);
    if (chunks !== chunkCount(part))
      reading.refuse(`part ${number} states ${chunks} chunks; its windows make ${chunkCount(part)}`);
  });
}

function readTable(reading: ExrReading, part: ExrPart, number: number): Float64Array {
  const count = part.isDeep ? (part.chunks ?? chunkCount(part)) : chunkCount(part);
  reading.need(count * 8, `the table of offsets of part ${number}`);
  return Float64Array.from({ length: count }, () => reading.offset('an offset'));
}

const emptyPicture = (part: ExrPart, planes: Map<string, ExrPlane>): ExrPicture => ({
  ...part,
  width: part.dataWindow.maxX - part.dataWindow.minX + 1,
  height: part.dataWindow.maxY - part.dataWindow.minY + 1,
  planes,
  missingChunks: 0,
  broken: [],
});

function readPart(
  reading: ExrReading,
  part: ExrPart,
  number: number,
  table: Float64Array,
  { isMultiPart, inflate, want }: Required<ReadExrOptions> & { isMultiPart: boolean },
): ExrPicture {
  const { minX, minY, maxX, maxY } = part.dataWindow;
  const pixels = (maxX - minX + 1) * (maxY - minY + 1);
  const planes = new Map<string, ExrPlane>();
  for (const { name, type } of part.channels)
    if (want(part, name)) planes.set(name, type === 'uint' ? new Uint32Array(pixels) : new Float32Array(pixels));
  const picture = emptyPicture(part, planes);
  const unpack = UNPACK[part.compression];
  blocksOf(part).forEach((block, chunk) => {
    const at = table[chunk];
    try {
      const packed = chunkAt(reading, part, number, at, block, isMultiPart);
      if (!packed) {
        picture.missingChunks += 1;
        return;
      }
      const size = rawSize(part.channels, block);
      // What did not become smaller was left as it is.
      const lines = packed.length === size ? packed : unpack({ bytes: packed, block, channels: part.channels, size, inflate }); // prettier-ignore
      scatter(lines, part.channels, block, picture);
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      picture.missingChunks += 1;
      if (picture.broken.length < MOST_TOLD)
        picture.broken.push(`part ${number}, chunk ${chunk} at byte ${at}: ${error.message}`);
    }
  });
  return picture;
}

/** The packed bytes of a chunk, or null when it is not there. */
function chunkAt(
  reading: ExrReading,
  part: ExrPart,
  number: number,
  at: number,
  block: ExrBlock,
  isMultiPart: boolean,
): Uint8Array | null {
  const head = (isMultiPart ? 4 : 0) + (part.tiles ? 20 : 8);
  if (at <= 0 || at + head > reading.bytes.length) return null;
  reading.at = at;
  if (isMultiPart) {
    const of = reading.int32('a chunk');
    if (of !== number) throw new RangeError(`it is a chunk of part ${of}`);
  }
  if (part.tiles) {
    const [x, y, levelX, levelY] = [0, 1, 2, 3].map(() => reading.int32('a tile'));
    const { width, height } = part.tiles;
    const isIt =
      levelX === 0 &&
      levelY === 0 &&
      x * width + part.dataWindow.minX === block.minX &&
      y * height + part.dataWindow.minY === block.minY;
    if (!isIt) throw new RangeError(`it is tile ${x}, ${y} of level ${levelX}, ${levelY}`);
  } else {
    const line = reading.int32('a chunk');
    if (line !== block.minY) throw new RangeError(`it begins at line ${line}, not ${block.minY}`);
  }
  const size = reading.int32('the size of a chunk');
  if (size < 0 || reading.at + size > reading.bytes.length) return null;
  return reading.take(size, 'a chunk');
}

/** Puts the lines of a block where they stand in the planes. */
function scatter(lines: Uint8Array, channels: ExrChannel[], block: ExrBlock, picture: ExrPicture): void {
  const { dataWindow, width, planes } = picture;
  // Views need their own alignment; halves always stand at even bytes, the rest may not.
  const aligned = lines.byteOffset & 3 ? lines.slice() : lines;
  const { buffer, byteOffset, length } = aligned;
  const halves = new Uint16Array(buffer, byteOffset, length >> 1);
  const floats = new Float32Array(buffer, byteOffset, length >> 2);
  const wholes = new Uint32Array(buffer, byteOffset, length >> 2);
  const view = new DataView(buffer, byteOffset, length);
  let at = 0;
  for (let y = block.minY; y <= block.maxY; y++)
    for (const { name, type, xSampling, ySampling } of channels) {
      if (ySampling > 1 && y % ySampling !== 0) continue;
      const count = samplesIn(xSampling, block.minX, block.maxX);
      const plane = planes.get(name);
      const from = at;
      at += count * BYTES_OF[type];
      if (!plane) continue;
      const to = (y - dataWindow.minY) * width + block.minX - dataWindow.minX;
      if (xSampling > 1 || ySampling > 1) {
        const read = (i: number) =>
          type === 'half' ? HALF_TO_FLOAT[view.getUint16(from + i * 2, true)] : type === 'float' ? view.getFloat32(from + i * 4, true) : view.getUint32(from + i * 4, true); // prettier-ignore
        repeat(plane, read, block, y, { xSampling, ySampling }, picture);
      } else if (type === 'half') widen(plane as Float32Array, to, halves, from >> 1, count);
      else if (from & 3) {
        for (let i = 0; i < count; i++)
          plane[to + i] = type === 'float' ? view.getFloat32(from + i * 4, true) : view.getUint32(from + i * 4, true);
      } else plane.set((type === 'float' ? floats : wholes).subarray(from >> 2, (from >> 2) + count), to);
    }
}

function widen(plane: Float32Array, to: number, halves: Uint16Array, from: number, count: number): void {
  for (let i = 0; i < count; i++) plane[to + i] = HALF_TO_FLOAT[halves[from + i]];
}

/** One sample for several pixels, down and across. */
function repeat(
  plane: ExrPlane,
  read: (i: number) => number,
  block: ExrBlock,
  y: number,
  { xSampling, ySampling }: { xSampling: number; ySampling: number },
  { dataWindow, width, height }: ExrPicture,
): void {
  const first = Math.ceil(block.minX / xSampling);
  for (let x = block.minX; x <= block.maxX; x++) {
    const sample = Math.max(first, Math.floor(x / xSampling));
    const value = read(sample - first);
    for (let k = 0; k < ySampling; k++) {
      const row = y - dataWindow.minY + k;
      if (row < height) plane[row * width + x - dataWindow.minX] = value;
    }
  }
}
