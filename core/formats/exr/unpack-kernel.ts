/**
 * The part of reading an EXR that every byte goes through, in a WebAssembly kernel where whoever reads lends one, and in
 * TypeScript otherwise: both give the same bytes and floats.
 *
 * @example
 * readExr(bytes, name, { inflate, means: kernelMeans(instance) });
 */
import { HALF_TO_FLOAT } from '../../data/half.ts';
import { restored } from './compression/byte-order.ts';

export interface ExrMeans {
  /** Bytes of a chunk put back in order; what comes out is good until the next call. */
  restore(packed: Uint8Array): Uint8Array;
  /** Halves to floats. @param from index of the first half in `lines`, by bytes */
  widen(lines: Uint8Array, from: number, count: number, plane: Float32Array, to: number): void;
}

export const plainMeans: ExrMeans = {
  restore: restored,
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
}

const PAGE = 65536;
/** The first bytes are left alone: the kernel's own. */
const START = 1024;
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
