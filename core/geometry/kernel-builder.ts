/** Trees built by the WebAssembly kernel: the same as its TypeScript twin's, `buildBvh`. */
import { allocatePlain, copied } from './allocate.ts';
import { buildBvh, type BuildBvh } from './bvh-build.ts';

/** What a host makes of the compiled kernel: its function, and its memory, which grows as asked. */
export interface BuildKernel {
  memory: { buffer: ArrayBufferLike; grow(pages: number): number };
  build(records: number, count: number, leafSize: number, bounds: number, links: number, order: number): number;
}

const DATA = 4096;
const PAGE = 65536;
/** A record, two nodes with their boxes and links, a place in the order. */
const ITEM_BYTES = 32 + 2 * (24 + 8) + 4;
/** What does not fit in the kernel's four gigabytes is built by the twin. */
const MOST_ITEMS = Math.floor((2 ** 32 - DATA - PAGE) / ITEM_BYTES);

/**
 * @example
 * const build = kernelBuilder({ memory, build: exports.build });
 * const { nodeCount, order } = build(boxes, 4);
 */
export function kernelBuilder({ memory, build }: BuildKernel): BuildBvh {
  return (boxes, leafSize, allocate = allocatePlain) => {
    const count = boxes.length / 6;
    if (count > MOST_ITEMS) return buildBvh(boxes, leafSize, allocate);
    const bounds = DATA + count * 32;
    const links = bounds + count * 48;
    const order = links + count * 16;
    const missing = Math.ceil((order + count * 4) / PAGE) - memory.buffer.byteLength / PAGE;
    if (missing > 0) memory.grow(missing);
    new Float32Array(memory.buffer, DATA, boxes.length).set(boxes);
    const nodeCount = build(DATA, count, leafSize, bounds, links, order);
    return {
      bounds: copied(new Float32Array(memory.buffer, bounds, nodeCount * 6), allocate),
      links: copied(new Int32Array(memory.buffer, links, nodeCount * 2), allocate),
      order: copied(new Uint32Array(memory.buffer, order, count), allocate),
      nodeCount,
    };
  };
}
