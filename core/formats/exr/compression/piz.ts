/**
 * PIZ: values renumbered by which occur, a Haar wavelet over each channel, Huffman codes.
 * Source: the OpenEXR file layout document.
 */
import { inLines, runsOf } from '../blocks.ts';
import type { Unpack } from './compression.ts';
import { decode, readCodes, type Codes } from './huffman.ts';

const BITMAP = 8192;

export const unpackPiz: Unpack = ({ bytes, block, channels, size, unpackPlanes }) => {
  if (bytes.length < 8) throw new RangeError('a chunk is cut off');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const [least, most] = [view.getUint16(0, true), view.getUint16(2, true)];
  let at = 4;
  const bitmap = new Uint8Array(BITMAP);
  if (least <= most) {
    if (most >= BITMAP || at + most - least + 1 > bytes.length) throw new RangeError('a list of values is cut off');
    bitmap.set(bytes.subarray(at, at + most - least + 1), least);
    at += most - least + 1;
  }
  // Zero is always among them.
  bitmap[0] |= 1;
  const values = new Uint16Array(65536);
  let known = 0;
  for (let value = 0; value < 65536; value++) if (bitmap[value >> 3] & (1 << (value & 7))) values[known++] = value;
  if (at + 4 > bytes.length) throw new RangeError('a chunk is cut off');
  const length = view.getUint32(at, true);
  at += 4;
  if (at + length > bytes.length) throw new RangeError('codes lead beyond the chunk');
  if (size === 0) return new Uint8Array(0);
  const planes: PizPlane[] = [];
  let start = 0;
  for (const { channel, nx, ny } of runsOf(channels, block)) {
    // Values of 32 bits are two of 16, each a plane of its own.
    const parts = channel.type === 'half' ? 1 : 2;
    for (let part = 0; part < parts; part++) planes.push({ start: start + part, nx, ox: parts, ny, oy: nx * parts });
    start += nx * ny * parts;
  }
  if (start > size >> 1) throw new RangeError('channels take more than the chunk has');
  const codes = readCodes(bytes.subarray(at, at + length));
  return inLines(unpackPlanes({ codes, count: size >> 1, planes, most: known - 1, values }), channels, block);
};

/** Where a plane stands among the values of a chunk: its first, from one column to the next, from one row to the next. */
export interface PizPlane {
  start: number;
  nx: number;
  ox: number;
  ny: number;
  oy: number;
}

/** What is left of a chunk once its tables are read. */
export interface PizValues {
  codes: Codes;
  /** Values that must come out. */
  count: number;
  planes: PizPlane[];
  /** The greatest number of a value. */
  most: number;
  /** Value of each number. */
  values: Uint16Array;
}

/** Codes followed, wavelets undone, numbers turned into values. @throws RangeError saying what does not fit */
export function pizPlanes({ codes, count, planes, most, values }: PizValues): Uint8Array {
  const data = decode(codes, count);
  for (const { start, nx, ox, ny, oy } of planes) unwave(data, start, nx, ox, ny, oy, most);
  for (let i = 0; i < data.length; i++) data[i] = values[data[i]];
  return new Uint8Array(data.buffer);
}

/**
 * Undoes the wavelet in place.
 * @param ox values from one column to the next
 * @param oy values from one row to the next
 * @param most the greatest value: up to 14 bits the sums fit, above they wrap around
 */
function unwave(data: Uint16Array, start: number, nx: number, ox: number, ny: number, oy: number, most: number): void {
  const level = most < 1 << 14 ? levelThatFits : levelThatWraps;
  const least = Math.min(nx, ny);
  let p = 1;
  while (p <= least) p <<= 1;
  // From the coarsest level down.
  for (p >>= 2; p >= 1; p >>= 1) level(data, start, nx, ox, ny, oy, p);
}

type Level = (data: Uint16Array, start: number, nx: number, ox: number, ny: number, oy: number, p: number) => void;

// The two differ in their sums alone; each is a loop of its own, for it is where the time goes.
const levelThatFits: Level = (data, start, nx, ox, ny, oy, p) => {
  const p2 = p * 2;
  const [oy1, oy2, ox1, ox2] = [oy * p, oy * p2, ox * p, ox * p2];
  const lastRow = start + oy * (ny - p2);
  let row = start;
  for (; row <= lastRow; row += oy2) {
    const lastColumn = row + ox * (nx - p2);
    let px = row;
    for (; px <= lastColumn; px += ox2) {
      const low = (data[px] << 16) >> 16;
      const high = (data[px + oy1] << 16) >> 16;
      const low1 = (data[px + ox1] << 16) >> 16;
      const high1 = (data[px + ox1 + oy1] << 16) >> 16;
      const a = ((low + (high & 1) + (high >> 1)) << 16) >> 16;
      const b = ((a - high) << 16) >> 16;
      const c = ((low1 + (high1 & 1) + (high1 >> 1)) << 16) >> 16;
      const d = ((c - high1) << 16) >> 16;
      const e = a + (c & 1) + (c >> 1);
      const f = b + (d & 1) + (d >> 1);
      data[px] = e;
      data[px + ox1] = e - c;
      data[px + oy1] = f;
      data[px + ox1 + oy1] = f - d;
    }
    if (nx & p) fitting(data, px, px + oy1);
  }
  if (ny & p) {
    const lastColumn = row + ox * (nx - p2);
    for (let px = row; px <= lastColumn; px += ox2) fitting(data, px, px + ox1);
  }
};

const levelThatWraps: Level = (data, start, nx, ox, ny, oy, p) => {
  const p2 = p * 2;
  const [oy1, oy2, ox1, ox2] = [oy * p, oy * p2, ox * p, ox * p2];
  const lastRow = start + oy * (ny - p2);
  let row = start;
  for (; row <= lastRow; row += oy2) {
    const lastColumn = row + ox * (nx - p2);
    let px = row;
    for (; px <= lastColumn; px += ox2) {
      wrapping(data, px, px + oy1);
      wrapping(data, px + ox1, px + ox1 + oy1);
      wrapping(data, px, px + ox1);
      wrapping(data, px + oy1, px + oy1 + ox1);
    }
    if (nx & p) wrapping(data, px, px + oy1);
  }
  if (ny & p) {
    const lastColumn = row + ox * (nx - p2);
    for (let px = row; px <= lastColumn; px += ox2) wrapping(data, px, px + ox1);
  }
};

/** A mean and a difference back to two values. */
function fitting(data: Uint16Array, a: number, b: number): void {
  const difference = (data[b] << 16) >> 16;
  const first = ((data[a] << 16) >> 16) + (difference & 1) + (difference >> 1);
  data[a] = first;
  data[b] = first - difference;
}

function wrapping(data: Uint16Array, a: number, b: number): void {
  const high = data[b];
  const second = (data[a] - (high >> 1)) & 0xffff;
  data[b] = second;
  data[a] = (high + second - 0x8000) & 0xffff;
}
