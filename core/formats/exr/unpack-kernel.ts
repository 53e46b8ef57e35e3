/**
 * The part of reading an EXR that every byte goes through, in a WebAssembly kernel where whoever reads lends one, and in
 * TypeScript otherwise: both give the same bytes and floats.
 *
 * @example
 * readExr(bytes, name, { inflate, means: kernelMeans(instance) });
 */
import { HALF_TO_FLOAT } from '../../data/half.ts';
import { restored } from './compression/byte-order.ts';
import { PROBLEMS } from './compression/huffman.ts';
import { pizPlanes, type PizValues } from './compression/piz.ts';

export interface ExrMeans {
  /** Bytes of a chunk put back in order; what comes out is good until the next call. */
  restore(packed: Uint8Array): Uint8Array;
  /** The values of a PIZ chunk, see `compression/piz.ts`; good until the next call. */
  unpackPlanes(packed: PizValues): Uint8Array;
  /** Halves to floats. @param from index of the first half in `lines`, by bytes */
  widen(lines: Uint8Array, from: number, count: number, plane: Float32Array, to: number): void;
}

export const plainMeans: ExrMeans = {
  restore: restored,
  unpackPlanes: pizPlanes,
  widen(lines, from, count, plane, to) {
    // Halves always stand at even bytes of their lines; where the lines begin at an odd one they are copied.
    const start = lines.byteOffset + from;
    const halves = start & 1 ? new Uint16Array(lines.slice(from, from + count * 2).buffer) : new Uint16Array(lines.buffer, start, count); // prettier-ignore
    for (let i = 0; i < count; i++) plane[to + i] = HALF_TO_FLOAT[halves[i]];
  },
};

/** Exports of `core/kernels/unpack-exr`, and the memory it works in. */
export interface UnpackKernel {
  memory: { readonly buffer: ArrayBufferLike; grow(pages: number): number };
  restore(from: number, to: number, length: number): void;
  widen(from: number, to: number, count: number): void;
  /** @returns 0, or the number of a problem of `PROBLEMS` from 1 on */
  followCodes(from: number, end: number, bits: number, tables: number, longest: number, runSymbol: number, to: number, count: number): number; // prettier-ignore
  undoWavelet(data: number, nx: number, ox: number, ny: number, oy: number, fits: number): void;
  renumber(data: number, count: number, values: number): void;
}

const PAGE = 65536;
/** The first bytes are left alone: the kernel's own. */
const START = 1024;
/** Codes by their first 14 bits; lengths that codes may have; both tables together, before what codes stand for. */
const FAST = 1 << 14;
const LENGTHS = 59;
const TABLE_BYTES = FAST * 4 + 3 * LENGTHS * 8 + 8;
/** Bytes that widening may read or write beyond its last. */
const SLACK = 64;

/** Not for two threads at a time. */
export function kernelMeans(kernel: UnpackKernel): ExrMeans {
  const { memory } = kernel;
  let bytes = new Uint8Array(memory.buffer);
  let floats = new Float32Array(memory.buffer);
  function need(size: number): void {
    if (size <= bytes.length) return;
    memory.grow(Math.ceil((size - bytes.length) / PAGE));
    bytes = new Uint8Array(memory.buffer);
    floats = new Float32Array(memory.buffer);
  }
  const aligned = (at: number) => (at + 15) & ~15;
  /** Where the lines of the last chunk end: what is widened goes beyond them. */
  let end = START;

  return {
    restore(packed) {
      const from = START;
      const to = aligned(from + packed.length + SLACK);
      end = aligned(to + packed.length + SLACK);
      need(end);
      bytes.set(packed, from);
      kernel.restore(from, to, packed.length);
      return bytes.subarray(to, to + packed.length);
    },
    unpackPlanes({ codes, count, planes, most, values }) {
      const { bytes: packed, begin, bits, runSymbol, longest } = codes;
      const tables = aligned(START + packed.length - begin + SLACK);
      const numbers = aligned(tables + TABLE_BYTES + codes.sorted.byteLength);
      const to = aligned(numbers + values.byteLength);
      end = aligned(to + count * 2 + SLACK);
      need(end);
      bytes.set(packed.subarray(begin), START);
      const words = new Uint32Array(memory.buffer, tables);
      for (let k = 0; k < FAST; k++) words[k] = codes.fastSymbol[k] * 256 + codes.fastLength[k];
      const doubles = new Float64Array(memory.buffer, tables + FAST * 4);
      doubles.set(codes.firstCode);
      doubles.set(codes.firstPlace, LENGTHS);
      doubles.set(codes.counts, 2 * LENGTHS);
      words.set(codes.sorted, TABLE_BYTES / 4);
      new Uint16Array(memory.buffer, numbers, values.length).set(values);
      const problem = kernel.followCodes(START, START + ((bits + 7) >> 3), bits, tables, longest, runSymbol, to, count);
      if (problem > 0) throw new RangeError(PROBLEMS[problem - 1]);
      for (const { start, nx, ox, ny, oy } of planes)
        kernel.undoWavelet(to + start * 2, nx, ox, ny, oy, most < 1 << 14 ? 1 : 0);
      kernel.renumber(to, count, numbers);
      return bytes.subarray(to, to + count * 2);
    },
    widen(lines, from, count, plane, to) {
      const isHere = lines.buffer === memory.buffer;
      const source = isHere ? lines.byteOffset + from : aligned(end);
      const target = isHere ? aligned(end) : aligned(source + count * 2 + SLACK);
      need(target + count * 4 + SLACK);
      if (!isHere) bytes.set(lines.subarray(from, from + count * 2), source);
      kernel.widen(source, target, count);
      plane.set(floats.subarray(target >> 2, (target >> 2) + count), to);
    },
  };
}
