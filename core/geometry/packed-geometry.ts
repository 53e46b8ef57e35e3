/**
 * A scene's geometry packed for the WebAssembly kernel: one block of memory that threads share. Triangle and instance
 * numbers stay what they were.
 *
 * Layout, addresses from the start of the memory: the header at 4096 (addresses of the top tree, top order, instance
 * meshes, instance masks, instance slices, world-to-mesh rows, mesh trees, thread slots), then those parts. Trees are
 * stored as `wide-tree.ts` says.
 *
 * @example
 * const layout = layOut(geometry);
 * const memory = new WebAssembly.Memory({ initial: layout.pages, maximum: layout.pages, shared: true });
 * layout.write(memory.buffer);
 */
import type { SceneGeometry } from './scene-geometry.ts';
import { packMesh, packTop } from './wide-tree.ts';

const HEADER = 4096;
const HEADER_BYTES = 64;
const PAGE = 65536;

/** Threads of one process that may trace the same scene. */
export const SLOTS = 64;
/** Each has room for its result and its stacks. */
export const SLOT_BYTES = 16384;

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
  ]);
  const slots = place(new Uint8Array(0));
  header[7] = slots;
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
