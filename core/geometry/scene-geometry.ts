/**
 * Everything rays are traced against, in flat arrays that threads can share:
 * mesh trees in mesh space, and a tree over instances in the world.
 */
import type { Mesh } from '../data/mesh.ts';
import { invert, type Transform } from '../data/transform.ts';
import { roundDown } from '../data/float32.ts';
import { allocatePlain, copied, type Allocate } from './allocate.ts';
import { buildBvh, type BuildBvh } from './bvh-build.ts';
import type { KeptParts } from './kept-parts.ts';

/** What a host lends to compiling: memory that threads can share, a faster builder of the same trees. */
export interface Means {
  allocate: Allocate;
  buildBvh: BuildBvh;
  /** Of scenes compiled before with the same means. */
  kept?: KeptParts;
}

export const PLAIN_MEANS: Means = { allocate: allocatePlain, buildBvh };

/** One mesh, ready to be traced and shaded. Triangles stand in leaf order. */
export interface CompiledMesh {
  positions: Float32Array;
  normals: Float32Array | null;
  uvs: Float32Array | null;
  uvs2: Float32Array | null;
  indices: Uint32Array;
  /** Where vertices stood before a map moved them; null: nothing moved them. No ray needs it. */
  before: Float32Array | null;
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
  /** Rounded outwards. */
  topBounds: Float32Array;
  topLinks: Int32Array;
  topOrder: Uint32Array;
}

/** Triangles that the kernel tests at once. */
export const MESH_LEAF = 4;

export function compileMesh(mesh: Mesh, { allocate, buildBvh }: Means = PLAIN_MEANS): CompiledMesh {
  const bvh = buildBvh(triangleBoxes(mesh), MESH_LEAF, allocate);
  const indices = new Uint32Array(allocate(mesh.indices.length * 4));
  for (let i = 0; i < bvh.order.length; i++) {
    const from = bvh.order[i] * 3;
    indices[i * 3] = mesh.indices[from];
    indices[i * 3 + 1] = mesh.indices[from + 1];
    indices[i * 3 + 2] = mesh.indices[from + 2];
  }
  return {
    positions: copied(mesh.positions, allocate),
    normals: mesh.normals && copied(mesh.normals, allocate),
    uvs: mesh.uvs && copied(mesh.uvs, allocate),
    uvs2: mesh.uvs2 ? copied(mesh.uvs2, allocate) : null,
    indices,
    before: mesh.before ? copied(mesh.before, allocate) : null,
    bounds: bvh.bounds,
    links: bvh.links,
  };
}

function triangleBoxes({ positions, indices }: Mesh): Float32Array {
  const boxes = new Float32Array(indices.length * 2);
  for (let t = 0, b = 0; t < indices.length; t += 3, b += 6) {
    const p = indices[t] * 3;
    const q = indices[t + 1] * 3;
    const r = indices[t + 2] * 3;
    for (let a = 0; a < 3; a++) {
      const x = positions[p + a];
      const y = positions[q + a];
      const z = positions[r + a];
      const low = x < y ? x : y;
      const high = x < y ? y : x;
      boxes[b + a] = z < low ? z : low;
      boxes[b + 3 + a] = z > high ? z : high;
    }
  }
  return boxes;
}

export function compileGeometry(
  meshes: CompiledMesh[],
  instances: InstanceSpec[],
  { allocate, buildBvh }: Means = PLAIN_MEANS,
): SceneGeometry {
  const n = instances.length;
  const toMesh = new Float64Array(allocate(n * 96));
  const toWorld = new Float64Array(allocate(n * 96));
  const boxes = new Float32Array(n * 6);
  instances.forEach((instance, i) => {
    writeRows(toWorld, i * 12, instance.transform);
    writeRows(toMesh, i * 12, invert(instance.transform));
    worldBox(boxes, i * 6, meshes[instance.mesh].bounds, toWorld, i * 12);
  });
  const top = buildBvh(boxes, 1, allocate);
  return {
    meshes,
    instanceMesh: copied(
      Int32Array.from(instances, (i) => i.mesh),
      allocate,
    ),
    instanceMask: copied(
      Uint32Array.from(instances, (i) => i.mask),
      allocate,
    ),
    instanceSlice: copied(
      Int32Array.from(instances, (i) => i.slice ?? -1),
      allocate,
    ),
    toMesh,
    toWorld,
    topBounds: top.bounds,
    topLinks: top.links,
    topOrder: top.order,
  };
}

/** Whether rays meet the same things in both, so that what was packed for one serves the other. */
export function isSameGeometry(a: SceneGeometry, b: SceneGeometry): boolean {
  const same = (p: ArrayLike<number>, q: ArrayLike<number>) => {
    if (p.length !== q.length) return false;
    for (let i = 0; i < p.length; i++) if (p[i] !== q[i]) return false;
    return true;
  };
  return (
    a.meshes.length === b.meshes.length &&
    a.meshes.every((mesh, i) => mesh === b.meshes[i]) &&
    same(a.instanceMesh, b.instanceMesh) &&
    same(a.instanceMask, b.instanceMask) &&
    same(a.instanceSlice, b.instanceSlice) &&
    same(a.toWorld, b.toWorld)
  );
}

function writeRows(rows: Float64Array, o: number, m: Transform): void {
  for (let row = 0; row < 3; row++)
    for (let column = 0; column < 4; column++) rows[o + row * 4 + column] = m[column * 4 + row];
}

/** Box of a mesh's corners in the world, widened by what rounding of the transform may move them. */
function worldBox(boxes: Float32Array, b: number, mesh: Float32Array, rows: Float64Array, o: number): void {
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
    boxes[b + row] = roundDown(min - size * 1e-14);
    boxes[b + row + 3] = -roundDown(-max - size * 1e-14);
  }
}
