/**
 * A scene's geometry packed for the WebAssembly kernel: one block of memory that threads share. Triangle and instance
 * numbers stay what they were.
 *
 * Layout, addresses from the start of the memory: the header at 4096 (addresses of the top tree, top order, instance
 * meshes, instance masks, instance slices, world-to-mesh rows, mesh trees, thread slots, and the end of all in units of 16
 * bytes), then those parts. Trees are stored as `wide-tree.ts` says. What else a scene has is added behind them.
 *
 * @example
 * const layout = layOut(geometry);
 * const memory = new WebAssembly.Memory({ initial: layout.pages, maximum: MOST_PAGES, shared: true });
 * layout.write(memory.buffer);
 */
import type { SceneGeometry } from './scene-geometry.ts';
import { packMesh, packTop } from './wide-tree.ts';

const HEADER = 4096;
const HEADER_BYTES = 64;
const PAGE = 65536;
const END_WORD = 8;
const UNIT = 16;

/** Threads of one process that may trace the same scene. */
export const SLOTS = 64;
/** Each has room for its result and its stacks, and behind them for its path tracer. */
export const SLOT_BYTES = 131072;
export const SLOT_ARENA = 16384;

/** Memory of a host, which grows as asked and may be shared by threads. */
export interface GrowingMemory {
  readonly buffer: ArrayBufferLike;
  grow(pages: number): number;
}

/** Pages that a memory may grow to: all that 32 bits can address. */
export const MOST_PAGES = 65536;

export interface Layout {
  /** Pages of 64 KiB. */
  pages: number;
  /** Address of the first thread's slot. */
  slots: number;
  write(buffer: ArrayBufferLike): void;
}

export function layOut(geometry: SceneGeometry): Layout {
  let end = HEADER + HEADER_BYTES;
  const parts: { at: number; data: ArrayBufferView }[] = [];
  const place = (data: ArrayBufferView): number => {
    const at = Math.ceil(end / 16) * 16;
    parts.push({ at, data });
    end = at + data.byteLength;
    return at;
  };
  const meshEntries = new Uint32Array(geometry.meshes.length);
  geometry.meshes.forEach((mesh, i) => {
    meshEntries[i] = place(packMesh(mesh));
  });
  const header = new Uint32Array([
    geometry.topLinks.length ? place(packTop(geometry)) : 0,
    place(geometry.topOrder),
    place(geometry.instanceMesh),
    place(geometry.instanceMask),
    place(geometry.instanceSlice),
    place(geometry.toMesh),
    place(meshEntries),
    0,
    0,
  ]);
  const slots = place(new Uint8Array(0));
  header[7] = slots;
  header[END_WORD] = (slots + SLOTS * SLOT_BYTES) / UNIT;
  parts.push({ at: HEADER, data: header });
  return {
    pages: Math.ceil((slots + SLOTS * SLOT_BYTES) / PAGE),
    slots,
    write(buffer) {
      for (const { at, data } of parts)
        new Uint8Array(buffer, at, data.byteLength).set(new Uint8Array(data.buffer, data.byteOffset, data.byteLength));
    },
  };
}

/**
 * Memory behind all that was put there before, on a boundary of 16 bytes with 8 before it that are free too; threads may
 * ask at once.
 * @throws RangeError when the memory cannot grow so far
 */
export function reserve(memory: GrowingMemory, bytes: number): number {
  const end = new Int32Array(memory.buffer, HEADER, END_WORD + 1);
  const at = (Atomics.add(end, END_WORD, Math.ceil(bytes / UNIT) + 1) + 1) * UNIT;
  const missing = Math.ceil((at + bytes - memory.buffer.byteLength) / PAGE);
  if (missing > 0) memory.grow(missing);
  return at;
}

/** Bytes of a memory that are given out. */
export const reserved = (memory: GrowingMemory): number =>
  Atomics.load(new Int32Array(memory.buffer, HEADER, END_WORD + 1), END_WORD) * UNIT;
