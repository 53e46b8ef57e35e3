/** `PlaneMeans` by the kernel `measure-planes`: blocks of planes are copied to its memory and worked on there. */
import { addValues, bitsOf, BINS, clearLanes, sumsOf, take, type Lanes, type Misfit, type NotFinite, type PlaneMeans } from './plane-means.ts'; // prettier-ignore

/** Exports of `core/kernels/measure-planes`, and the memory it works in. */
export interface PlaneKernel {
  memory: { readonly buffer: ArrayBufferLike };
  channelSums(from: number, count: number, end: number, sums: number, bins: number): number;
  luminance(red: number, green: number, blue: number, to: number, count: number): void;
  beginSum(wanted: number, sum: number, allowed: number, count: number, share: number, least: number): void;
  addPart(plane: number, sum: number, allowed: number, count: number, share: number, least: number): void;
  judgeSum(wanted: number, sum: number, allowed: number, count: number, off: number, to: number): void;
}

/** Values of a block: its sums and what is allowed of them stay in a core's cache. */
const BLOCK = 8192;
/** In memory, in bytes. The first ones are left alone: the kernel's own. */
const SUMS = 1024;
const FOUND = SUMS + 112;
const BIN_TABLES = SUMS + 1024;
const PLANES = [0, 1, 2, 3].map((k) => BIN_TABLES + 4 * BINS * 4 + k * BLOCK * 4);
const SUM = PLANES[3] + BLOCK * 4;
const ALLOWED = SUM + BLOCK * 8;
const OFF = ALLOWED + BLOCK * 8;
/** Pages of 64 kB that the memory has to have. */
export const PLANE_PAGES = Math.ceil((OFF + BLOCK) / 65536);

/** Not for two threads at a time. */
export function kernelPlanes(kernel: PlaneKernel): PlaneMeans {
  const { buffer } = kernel.memory;
  const blocks = PLANES.map((at) => new Float32Array(buffer, at, BLOCK));
  const [first] = blocks;
  const off = new Uint8Array(buffer, OFF, BLOCK);
  const found = new Float64Array(buffer, FOUND, 2);
  const lanes: Lanes = {
    sum: new Float64Array(buffer, SUMS, 4),
    least: new Float32Array(buffer, SUMS + 32, 4),
    most: new Float32Array(buffer, SUMS + 48, 4),
    negative: new Int32Array(buffer, SUMS + 64, 4),
    clipped: new Int32Array(buffer, SUMS + 80, 4),
    zero: new Int32Array(buffer, SUMS + 96, 4),
    bins: new Int32Array(buffer, BIN_TABLES, 4 * BINS),
  };
  const fours = (count: number) => (count + 3) & ~3;

  return {
    channelSums(plane, end) {
      clearLanes(lanes);
      const strange: NotFinite = { nan: 0, infinite: 0, places: [] };
      const bits = bitsOf(plane);
      for (let from = 0; from < plane.length; from += BLOCK) {
        const to = Math.min(plane.length, from + BLOCK);
        const whole = from + ((to - from) & ~3);
        first.set(plane.subarray(from, to));
        for (let at = from; at < to;) {
          if (at < whole) at += kernel.channelSums(PLANES[0] + (at - from) * 4, whole - at, end, SUMS, BIN_TABLES);
          // Those few among which one is not finite, or the last ones.
          const few = Math.min(to, at + 4);
          addValues(lanes, strange, plane, bits, at, few, end);
          at = few;
        }
      }
      return sumsOf(lanes, strange);
    },
    luminance(...colours) {
      const out = new Float32Array(colours[0].length);
      for (let from = 0; from < out.length; from += BLOCK) {
        const to = Math.min(out.length, from + BLOCK);
        colours.forEach((plane, k) => blocks[k].set(plane.subarray(from, to)));
        kernel.luminance(PLANES[0], PLANES[1], PLANES[2], PLANES[3], fours(to - from));
        out.set(blocks[3].subarray(0, to - from), from);
      }
      return out;
    },
    misfit(channels) {
      const pixels = channels[0].whole.plane.length;
      const all: Misfit = { off: new Uint8Array(pixels), worst: 0, place: 0 };
      for (let from = 0; from < pixels; from += BLOCK) {
        const to = Math.min(pixels, from + BLOCK);
        const count = fours(to - from);
        off.fill(0);
        for (const { whole, parts } of channels) {
          blocks[0].set(whole.plane.subarray(from, to));
          kernel.beginSum(PLANES[0], SUM, ALLOWED, count, whole.step.share, whole.step.least);
          for (const { plane, step } of parts) {
            blocks[1].set(plane.subarray(from, to));
            kernel.addPart(PLANES[1], SUM, ALLOWED, count, step.share, step.least);
          }
          kernel.judgeSum(PLANES[0], SUM, ALLOWED, to - from, OFF, FOUND);
          if (found[0] > 0) take(all, found[0], from + found[1]);
        }
        all.off.set(off.subarray(0, to - from), from);
      }
      return all;
    },
  };
}
