/**
 * Everything rays are traced against, in flat arrays that threads can share:
 * mesh trees in mesh space, and a tree over instances in the world.
 */
import type { Mesh } from '../data/mesh.ts';
import { invert, type Transform } from '../data/transform.ts';
import { buildBvh } from './bvh-build.ts';

/** Gives memory for a typed array; a host passes one that allocates shared memory. */
export type Allocate = (bytes: number) => ArrayBufferLike;

export const allocatePlain: Allocate = (bytes) => new ArrayBuffer(bytes);

/** One mesh, ready to be traced and shaded. Triangles stand in leaf order. */
export interface CompiledMesh {
  positions: Float32Array;
  normals: Float32Array | null;
  uvs: Float32Array | null;
  uvs2: Float32Array | null;
  indices: Uint32Array;
  /** Node boxes, 6 floats each; exact, since corners are floats themselves. */
  bounds: Float32Array;
  /** As in `Bvh`. */
  links: Int32Array;
}

export interface InstanceSpec {
  /** Number of the mesh. */
  mesh: number;
  transform: Transform;
  /** Rays with a common bit see it. */
  mask: number;
  /** Slice of time in which alone it is there; −1 or nothing: always. */
  slice?: number;
}

export interface SceneGeometry {
  meshes: CompiledMesh[];
  instanceMesh: Int32Array;
  instanceMask: Uint32Array;
  /** Slice of time in which alone an instance is there, or −1. */
  instanceSlice: Int32Array;
  /** 12 doubles an instance: three rows of the world-to-mesh transform. */
  toMesh: Float64Array;
  /** 12 doubles an instance: three rows of the mesh-to-world transform. */
  toWorld: Float64Array;
  topBounds: Float64Array;
  topLinks: Int32Array;
  topOrder: Uint32Array;
}

const MESH_LEAF = 2;

export function compileMesh(mesh: Mesh, allocate: Allocate = allocatePlain): CompiledMesh {
  const triangles = mesh.indices.length / 3;
  const boxes = new Float64Array(triangles * 6);
  for (let t = 0; t < triangles; t++) {
    for (let a = 0; a < 3; a++) {
      const p = mesh.positions[mesh.indices[t * 3] * 3 + a];
      const q = mesh.positions[mesh.indices[t * 3 + 1] * 3 + a];
      const r = mesh.positions[mesh.indices[t * 3 + 2] * 3 + a];
      boxes[t * 6 + a] = Math.min(p, q, r);
      boxes[t * 6 + 3 + a] = Math.max(p, q, r);
    }
  }
  const bvh = buildBvh(boxes, MESH_LEAF);
  const indices = new Uint32Array(allocate(mesh.indices.length * 4));
  bvh.order.forEach((t, i) => indices.set(mesh.indices.subarray(t * 3, t * 3 + 3), i * 3));
  return {
    positions: floats(mesh.positions, allocate),
    normals: mesh.normals && floats(mesh.normals, allocate),
    uvs: mesh.uvs && floats(mesh.uvs, allocate),
    uvs2: mesh.uvs2 ? floats(mesh.uvs2, allocate) : null,
    indices,
    bounds: floats(bvh.bounds, allocate),
    links: copyInto(new Int32Array(allocate(bvh.links.length * 4)), bvh.links),
  };
}

export function compileGeometry(
  meshes: CompiledMesh[],
  instances: InstanceSpec[],
  allocate: Allocate = allocatePlain,
): SceneGeometry {
  const n = instances.length;
  const toMesh = new Float64Array(allocate(n * 96));
  const toWorld = new Float64Array(allocate(n * 96));
  const boxes = new Float64Array(n * 6);
  instances.forEach((instance, i) => {
    writeRows(toWorld, i * 12, instance.transform);
    writeRows(toMesh, i * 12, invert(instance.transform));
    worldBox(boxes, i * 6, meshes[instance.mesh].bounds, toWorld, i * 12);
  });
  const top = buildBvh(boxes, 1);
  return {
    meshes,
    instanceMesh: copyInto(
      new Int32Array(allocate(n * 4)),
      instances.map((i) => i.mesh),
    ),
    instanceMask: copyInto(
      new Uint32Array(allocate(n * 4)),
      instances.map((i) => i.mask),
    ),
    instanceSlice: copyInto(
      new Int32Array(allocate(n * 4)),
      instances.map((i) => i.slice ?? -1),
    ),
    toMesh,
    toWorld,
    topBounds: copyInto(new Float64Array(allocate(top.bounds.length * 8)), top.bounds),
    topLinks: copyInto(new Int32Array(allocate(top.links.length * 4)), top.links),
    topOrder: copyInto(new Uint32Array(allocate(top.order.length * 4)), top.order),
  };
}

function copyInto<T extends { set(from: ArrayLike<number>): void }>(to: T, from: ArrayLike<number>): T {
  to.set(from);
  return to;
}

function floats(from: ArrayLike<number>, allocate: Allocate): Float32Array {
  return copyInto(new Float32Array(allocate(from.length * 4)), from);
}

function writeRows(rows: Float64Array, o: number, m: Transform): void {
  for (let row = 0; row < 3; row++)
    for (let column = 0; column < 4; column++) rows[o + row * 4 + column] = m[column * 4 + row];
}

/** Box of a mesh's corners in the world, widened by what rounding of the transform may move them. */
function worldBox(boxes: Float64Array, b: number, mesh: Float32Array, rows: Float64Array, o: number): void {
  for (let row = 0; row < 3; row++) {
    let min = rows[o + row * 4 + 3];
    let max = min;
    let size = Math.abs(min);
    for (let column = 0; column < 3; column++) {
      const p = rows[o + row * 4 + column] * mesh[column];
      const q = rows[o + row * 4 + column] * mesh[column + 3];
      min += Math.min(p, q);
      max += Math.max(p, q);
      size += Math.max(Math.abs(p), Math.abs(q));
    }
    boxes[b + row] = min - size * 1e-14;
    boxes[b + row + 3] = max + size * 1e-14;
  }
}
