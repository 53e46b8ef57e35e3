/**
 * OpenEXR pictures: one part or many, scan lines or tiles (the full level), every compression, any channels. What is
 * cut short is read as far as it goes, and said.
 *
 * @example
 * const { parts } = readExr(bytes, 'beauty.1001.exr', { inflate });
 * const red = parts[0].planes.get('beauty.R');
 */
import { MOST_PIXELS } from '../../data/limits.ts';
import { HALF_TO_FLOAT } from '../../data/half.ts';
import { blocksOf, BYTES_OF, chunkCount, rawSize, samplesIn, type ExrBlock } from './blocks.ts';
import type { Inflate } from './compression/compression.ts';
import { UNPACK } from './compression/registry.ts';
import { readExrHeader, type ExrPart, type ExrWindow } from './header.ts';
import { ExrReading } from './reading.ts';
import { plainMeans, type ExrMeans } from './unpack-kernel.ts';

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
  /** A kernel for what every byte goes through; TypeScript by default. */
  means?: ExrMeans;
  /** Channels that are wanted; all by default. Others are not turned into planes. */
  want?: (part: ExrPart, channel: string) => boolean;
}

/** Bytes that planes of a file may take. */
const MOST_BYTES = 8 * 2 ** 30;
/** No packing makes so much of one byte. */
const MOST_RATIO = 2 ** 15;
const MOST_TOLD = 8;

/** A file whose headers are read and found sound; none of its pixels yet. */
export interface OpenedExr {
  isMultiPart: boolean;
  parts: ExrPart[];
  reading: ExrReading;
  /** Where the chunks of each part stand, in the order of `blocksOf`. */
  tables: Float64Array[];
}

/** @param where the file's name in messages. @throws RangeError naming file, part and byte */
export function openExr(bytes: Uint8Array, where: string): OpenedExr {
  const { parts, isMultiPart, end } = readExrHeader(bytes, where);
  const reading = new ExrReading(bytes, where);
  reading.at = end;
  checkSizes(reading, parts);
  return { isMultiPart, parts, reading, tables: parts.map((part, number) => readTable(reading, part, number)) };
}

/** @param where the file's name in messages. @throws RangeError naming file, part and byte */
export function readExr(
  bytes: Uint8Array,
  where: string,
  { inflate, means, want = () => true }: ReadExrOptions,
): ExrFile {
  const opened = openExr(bytes, where);
  return {
    isMultiPart: opened.isMultiPart,
    parts: opened.parts.map((part, number) => {
      if (part.isDeep) return emptyPicture(part, new Map());
      const planes = planesFor(part, want, (bytes) => new ArrayBuffer(bytes));
      const { missingChunks, broken } = decodeChunks(opened, number, planes, inflate, { means });
      return { ...emptyPicture(part, planes), missingChunks, broken };
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
    const pixels = (maxX - minX + 1) * (maxY - minY + 1);
    if (pixels > MOST_PIXELS)
      reading.refuse(`part ${number} has ${pixels} pixels, more than the ${MOST_PIXELS} that are taken`);
    planes += pixels * part.channels.length * 4;
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

/** Planes of nothing for the channels that are wanted. @param allocate memory of so many bytes, which threads may share */
export function planesFor(
  part: ExrPart,
  want: (part: ExrPart, channel: string) => boolean,
  allocate: (bytes: number) => ArrayBufferLike,
): Map<string, ExrPlane> {
  const { minX, minY, maxX, maxY } = part.dataWindow;
  const bytes = (maxX - minX + 1) * (maxY - minY + 1) * 4;
  const planes = new Map<string, ExrPlane>();
  for (const { name, type } of part.channels)
    if (want(part, name))
      planes.set(name, type === 'uint' ? new Uint32Array(allocate(bytes)) : new Float32Array(allocate(bytes)));
  return planes;
}

/**
 * Decodes chunks of a part into planes of its data window; the chunks of several threads may go into the same planes.
 * @param from first chunk in the order of the part's table, all by default
 * @param to the one after the last
 */
export function decodeChunks(
  { reading, parts, tables, isMultiPart }: OpenedExr,
  number: number,
  planes: Map<string, ExrPlane>,
  inflate: Inflate,
  { from = 0, to = tables[number].length, means = plainMeans }: { from?: number; to?: number; means?: ExrMeans } = {},
): Pick<ExrPicture, 'missingChunks' | 'broken'> {
  const part = parts[number];
  const told: Pick<ExrPicture, 'missingChunks' | 'broken'> = { missingChunks: 0, broken: [] };
  const unpack = UNPACK[part.compression];
  const blocks = blocksOf(part);
  for (let chunk = from; chunk < Math.min(to, blocks.length); chunk++) {
    const block = blocks[chunk];
    const at = tables[number][chunk];
    try {
      const packed = chunkAt(reading, part, number, at, block, isMultiPart);
      if (!packed) {
        told.missingChunks += 1;
        continue;
      }
      const size = rawSize(part.channels, block);
      // What did not become smaller was left as it is.
      const lines = packed.length === size ? packed : unpack({ bytes: packed, block, channels: part.channels, size, inflate, restore: means.restore, unpackPlanes: means.unpackPlanes }); // prettier-ignore
      scatter(lines, part, block, planes, means);
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      told.missingChunks += 1;
      if (told.broken.length < MOST_TOLD)
        told.broken.push(`part ${number}, chunk ${chunk} at byte ${at}: ${error.message}`);
    }
  }
  return told;
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
function scatter(
  lines: Uint8Array,
  { channels, dataWindow }: ExrPart,
  block: ExrBlock,
  planes: Map<string, ExrPlane>,
  means: ExrMeans,
): void {
  const width = dataWindow.maxX - dataWindow.minX + 1;
  // Views need their own alignment; halves always stand at even bytes, the rest may not.
  const aligned = lines.byteOffset & 3 ? lines.slice() : lines;
  const { buffer, byteOffset, length } = aligned;
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
        repeat(plane, read, block, y, { xSampling, ySampling }, dataWindow);
      } else if (type === 'half') means.widen(aligned, from, count, plane as Float32Array, to);
      else if (from & 3) {
        for (let i = 0; i < count; i++)
          plane[to + i] = type === 'float' ? view.getFloat32(from + i * 4, true) : view.getUint32(from + i * 4, true);
      } else plane.set((type === 'float' ? floats : wholes).subarray(from >> 2, (from >> 2) + count), to);
    }
}

/** One sample for several pixels, down and across. */
function repeat(
  plane: ExrPlane,
  read: (i: number) => number,
  block: ExrBlock,
  y: number,
  { xSampling, ySampling }: { xSampling: number; ySampling: number },
  dataWindow: ExrWindow,
): void {
  const width = dataWindow.maxX - dataWindow.minX + 1;
  const height = dataWindow.maxY - dataWindow.minY + 1;
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
