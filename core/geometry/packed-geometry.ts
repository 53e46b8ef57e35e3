/**
 * A scene's geometry packed for the WebAssembly kernel: one block of memory that threads share, with trees
 * eight children wide made from the binary ones. Triangle and instance numbers stay what they were.
 *
 * Layout, addresses from the start of the memory: the header at 4096 (addresses of top nodes, top order,
 * instance meshes, instance masks, instance slices, world-to-mesh rows, mesh entries, thread slots), then those parts. A mesh
 * entry is two addresses: nodes, and triangles in leaf order, each its three corners side by side, so that a leaf is
 * one run of memory. A node is 224 bytes: for each of minimum x, y, z and
 * maximum x, y, z eight 32-bit planes, then eight references: 0 none, n > 0 the node n, n < 0 the items from
 * (−n >> 3) on, (−n & 7) of them.
 *
 * @example
 * const layout = layOut(geometry);
 * const memory = new WebAssembly.Memory({ initial: layout.pages, maximum: layout.pages, shared: true });
 * layout.write(memory.buffer);
 */
import type { CompiledMesh, SceneGeometry } from './scene-geometry.ts';

const HEADER = 4096;
const HEADER_BYTES = 64;
const NODE_BYTES = 224;
const NODE_WORDS = NODE_BYTES / 4;
const WIDTH = 8;
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
  const meshEntries = new Uint32Array(geometry.meshes.length * 2);
  geometry.meshes.forEach((mesh, i) => {
    meshEntries.set([place(widen(mesh.bounds, mesh.links)), place(cornersOf(mesh))], i * 2);
  });
  const header = new Uint32Array([
    geometry.topLinks.length ? place(widen(geometry.topBounds, geometry.topLinks)) : 0,
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

/** The corners of every triangle, 9 floats each. */
function cornersOf({ positions, indices }: CompiledMesh): Float32Array {
  const corners = new Float32Array(indices.length * 3);
  for (let i = 0; i < indices.length; i++)
    for (let a = 0; a < 3; a++) corners[i * 3 + a] = positions[indices[i] * 3 + a];
  return corners;
}

/** Eight-wide nodes of a binary tree (see `bvh-build.ts`): the largest boxes of a node are opened first. */
function widen(bounds: ArrayLike<number>, links: Int32Array): Uint8Array {
  const floats: number[][] = [];
  const references: number[][] = [];
  const isLeaf = (n: number) => links[n * 2 + 1] > 0;
  const area = (n: number) => {
    const [x, y, z] = [0, 1, 2].map((a) => bounds[n * 6 + 3 + a] - bounds[n * 6 + a]);
    return x * y + y * z + z * x;
  };
  const build = (n: number): number => {
    const children = isLeaf(n) ? [n] : [n + 1, links[n * 2]];
    while (children.length < WIDTH) {
      let widest = -1;
      children.forEach((c, k) => {
        if (!isLeaf(c) && (widest < 0 || area(c) > area(children[widest]))) widest = k;
      });
      if (widest < 0) break;
      const c = children[widest];
      children.splice(widest, 1, c + 1, links[c * 2]);
    }
    const own = floats.push(new Array<number>(48).fill(0)) - 1;
    references.push(new Array<number>(8).fill(0));
    children.forEach((c, k) => {
      for (let a = 0; a < 3; a++) {
        floats[own][a * 8 + k] = roundDown(bounds[c * 6 + a]);
        floats[own][24 + a * 8 + k] = -roundDown(-bounds[c * 6 + 3 + a]);
      }
      references[own][k] = isLeaf(c) ? -(links[c * 2] * 8 + links[c * 2 + 1]) : build(c);
    });
    return own;
  };
  build(0);
  const bytes = new Uint8Array(floats.length * NODE_BYTES);
  const words = new Int32Array(bytes.buffer);
  const planes = new Float32Array(bytes.buffer);
  floats.forEach((node, i) => {
    planes.set(node, i * NODE_WORDS);
    words.set(references[i], i * NODE_WORDS + 48);
  });
  return bytes;
}

const one = new Float32Array(1);
const bits = new Int32Array(one.buffer);

/** The largest 32-bit number that is not above `x`. */
function roundDown(x: number): number {
  one[0] = x;
  if (one[0] <= x) return one[0];
  if (one[0] === 0) return -1.401298464324817e-45;
  bits[0] += one[0] > 0 ? -1 : 1;
  return one[0];
}
