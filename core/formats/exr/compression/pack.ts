/** Ways of packing that are written, each the other way about of its file beside this one. */
import { BYTES_OF, runsOf, type ExrBlock } from '../blocks.ts';
import type { ExrChannel, ExrCompression } from '../header.ts';
import { packHuffman } from './pack-huffman.ts';

/** zlib stream of some bytes (RFC 1950). */
export type Deflate = (bytes: Uint8Array) => Uint8Array;

export type WrittenCompression = Extract<ExrCompression, 'none' | 'RLE' | 'ZIPS' | 'ZIP' | 'PIZ'>;

/** @param lines bytes of the block, line by line and in each line channel by channel */
export type Pack = (lines: Uint8Array, channels: ExrChannel[], block: ExrBlock, deflate: Deflate) => Uint8Array;

export const PACK: Record<WrittenCompression, Pack> = {
  none: (lines) => lines,
  RLE: (lines) => runs(reordered(lines)),
  ZIPS: (lines, _channels, _block, deflate) => deflate(reordered(lines)),
  ZIP: (lines, _channels, _block, deflate) => deflate(reordered(lines)),
  PIZ: packPiz,
};

/** Even bytes first and odd ones after, then each as its difference from the one before. */
function reordered(raw: Uint8Array): Uint8Array {
  const out = new Uint8Array(raw.length);
  const half = (raw.length + 1) >> 1;
  // The first byte stands for itself, and the odd ones go on where the even ones end.
  let even = 128;
  for (let i = 0; i < half; i++) {
    const byte = raw[2 * i];
    out[i] = byte - even + 128;
    even = byte;
  }
  let odd = even;
  for (let i = half; i < raw.length; i++) {
    const byte = raw[2 * (i - half) + 1];
    out[i] = byte - odd + 128;
    odd = byte;
  }
  return out;
}

const SHORTEST_RUN = 3;
const LONGEST_RUN = 128;

function runs(bytes: Uint8Array): Uint8Array {
  const out: number[] = [];
  let at = 0;
  while (at < bytes.length) {
    let end = at + 1;
    while (end < bytes.length && end - at < LONGEST_RUN && bytes[end] === bytes[at]) end += 1;
    if (end - at >= SHORTEST_RUN) {
      out.push(end - at - 1, bytes[at]);
      at = end;
      continue;
    }
    // As they are, up to where three are alike.
    end = at;
    const isRun = (i: number) => i + 2 < bytes.length && bytes[i] === bytes[i + 1] && bytes[i] === bytes[i + 2];
    while (end < bytes.length && end - at < LONGEST_RUN - 1 && !isRun(end)) end += 1;
    out.push(256 - (end - at), ...bytes.subarray(at, end));
    at = end;
  }
  return Uint8Array.from(out);
}

function packPiz(lines: Uint8Array, channels: ExrChannel[], block: ExrBlock): Uint8Array {
  const planar = inPlanes(lines, channels, block);
  const data = new Uint16Array(planar.buffer);
  const seen = new Uint8Array(8192);
  for (const value of data) seen[value >> 3] |= 1 << (value & 7);
  // Zero is always among the values, and not told.
  seen[0] &= 0xfe;
  const least = seen.findIndex((byte) => byte !== 0);
  const most = seen.findLastIndex((byte) => byte !== 0);
  const number = new Uint16Array(65536);
  let known = 0;
  for (let value = 0; value < 65536; value++)
    if (value === 0 || seen[value >> 3] & (1 << (value & 7))) number[value] = known++;
  for (let i = 0; i < data.length; i++) data[i] = number[data[i]];
  let start = 0;
  for (const { channel, nx, ny } of runsOf(channels, block)) {
    const parts = channel.type === 'half' ? 1 : 2;
    for (let part = 0; part < parts; part++) wave(data, start + part, nx, parts, ny, nx * parts, known - 1);
    start += nx * ny * parts;
  }
  const codes = packHuffman(data);
  const isEmpty = least < 0;
  const map = isEmpty ? new Uint8Array(0) : seen.subarray(least, most + 1);
  const out = new Uint8Array(8 + map.length + codes.length);
  const view = new DataView(out.buffer);
  view.setUint16(0, isEmpty ? 8191 : least, true);
  view.setUint16(2, isEmpty ? 0 : most, true);
  out.set(map, 4);
  view.setUint32(4 + map.length, codes.length, true);
  out.set(codes, 8 + map.length);
  return out;
}

/** Lines of all channels as one channel after the other. */
function inPlanes(lines: Uint8Array, channels: ExrChannel[], block: ExrBlock): Uint8Array {
  const out = new Uint8Array(lines.length);
  const to: number[] = [];
  let start = 0;
  for (const { channel, nx, ny } of runsOf(channels, block)) {
    to.push(start);
    start += nx * ny * BYTES_OF[channel.type];
  }
  let at = 0;
  for (let y = block.minY; y <= block.maxY; y++)
    channels.forEach(({ type }, c) => {
      const length = (block.maxX - block.minX + 1) * BYTES_OF[type];
      out.set(lines.subarray(at, at + length), to[c]);
      to[c] += length;
      at += length;
    });
  return out;
}

function wave(data: Uint16Array, start: number, nx: number, ox: number, ny: number, oy: number, most: number): void {
  const fits = most < 1 << 14;
  const least = Math.min(nx, ny);
  for (let p = 1, p2 = 2; p2 <= least; p = p2, p2 <<= 1) {
    const [oy1, oy2, ox1, ox2] = [oy * p, oy * p2, ox * p, ox * p2];
    const lastRow = start + oy * (ny - p2);
    let row = start;
    for (; row <= lastRow; row += oy2) {
      const lastColumn = row + ox * (nx - p2);
      let px = row;
      for (; px <= lastColumn; px += ox2) {
        mix(data, px, px + ox1, fits);
        mix(data, px + oy1, px + oy1 + ox1, fits);
        mix(data, px, px + oy1, fits);
        mix(data, px + ox1, px + ox1 + oy1, fits);
      }
      if (nx & p) mix(data, px, px + oy1, fits);
    }
    if (ny & p) {
      const lastColumn = row + ox * (nx - p2);
      for (let px = row; px <= lastColumn; px += ox2) mix(data, px, px + ox1, fits);
    }
  }
}

/** Two values as their mean and difference. */
function mix(data: Uint16Array, a: number, b: number, fits: boolean): void {
  if (fits) {
    const [first, second] = [(data[a] << 16) >> 16, (data[b] << 16) >> 16];
    data[a] = (first + second) >> 1;
    data[b] = first - second;
    return;
  }
  const first = (data[a] + 0x8000) & 0xffff;
  const difference = first - data[b];
  const mean = (first + data[b]) >> 1;
  data[a] = difference < 0 ? (mean + 0x8000) & 0xffff : mean;
  data[b] = difference & 0xffff;
}
