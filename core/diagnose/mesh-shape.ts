/** What the mesh of an object is, as it is rendered: closed or open, turned out or in. Worked out once a mesh. */
import { polygonsOf } from '../data/poly-mesh.ts';
import { determinant } from '../data/transform.ts';
import type { CompiledMesh } from '../geometry/scene-geometry.ts';
import { topologyOf, type Topology } from '../geometry/topology.ts';
import type { CompiledScene } from '../render/scene/scene.ts';

export interface MeshShape {
  /** Every edge has two faces. */
  isClosed: boolean;
  /** A closed body whose faces look inwards, where it stands: mirroring counts. */
  isInsideOut: boolean;
  /** Edges of one face, and edges whose two faces turn opposite ways. */
  openEdges: number;
  mixedEdges: number;
  /** World bounds, metres. */
  min: number[];
  max: number[];
}

/** Triangles beyond which nobody waits for it. */
const MOST = 400_000;
const kept = new WeakMap<CompiledMesh, Topology | null>();

/** @param object number; @returns null for what is hidden, has no mesh of its own, or too large a one */
export function meshShape({ geometry, instanceObject }: CompiledScene, object: number): MeshShape | null {
  const instance = instanceObject.indexOf(object);
  if (instance < 0) return null;
  const mesh = geometry.meshes[geometry.instanceMesh[instance]];
  let topology = kept.get(mesh);
  if (topology === undefined) {
    topology = mesh.indices.length / 3 > MOST ? null : topologyOf(polygonsOf({ ...mesh, normals: null, uvs: null, uvs2: null })); // prettier-ignore
    kept.set(mesh, topology);
  }
  if (!topology) return null;
  const { openEdges, nonManifoldEdges, mixedEdges, volume } = topology;
  const rows = geometry.toWorld.subarray(instance * 12, instance * 12 + 12);
  const isClosed = openEdges.length + nonManifoldEdges.length === 0;
  const [min, max] = [[0, 0, 0], [0, 0, 0]]; // prettier-ignore
  for (let row = 0; row < 3; row++) {
    min[row] = max[row] = rows[row * 4 + 3];
    for (let a = 0; a < 3; a++) {
      const ends = [rows[row * 4 + a] * mesh.bounds[a], rows[row * 4 + a] * mesh.bounds[3 + a]];
      min[row] += Math.min(...ends);
      max[row] += Math.max(...ends);
    }
  }
  return {
    isClosed,
    isInsideOut: isClosed && mixedEdges.length === 0 && volume * determinant([...rows]) < 0,
    openEdges: openEdges.length,
    mixedEdges: mixedEdges.length,
    min,
    max,
  };
}

export interface Body {
  /** Metres of a straight way through it, the mean: 4 V/A (Cauchy 1841; of convex bodies exactly). Of an open one a figure of size alone. */
  chord: number;
  /** All of it lies in one plane. */
  isFlat: boolean;
}

/** Off its plane, over its size, that a sheet may be. */
const FLAT = 0.002;

/** The body of an object whose shape is known, where it stands. */
export function bodyOf({ geometry, instanceObject }: CompiledScene, object: number): Body {
  const instance = instanceObject.indexOf(object);
  const { positions, indices } = geometry.meshes[geometry.instanceMesh[instance]];
  const rows = geometry.toWorld.subarray(instance * 12, instance * 12 + 12);
  const [a, b, c] = [new Float64Array(3), new Float64Array(3), new Float64Array(3)];
  const place = (vertex: number, out: Float64Array) => {
    for (let row = 0; row < 3; row++)
      out[row] = rows[row * 4] * positions[vertex * 3] + rows[row * 4 + 1] * positions[vertex * 3 + 1] + rows[row * 4 + 2] * positions[vertex * 3 + 2]; // prettier-ignore
  };
  let [area, volume, size, off] = [0, 0, 0, 0];
  const origin = new Float64Array(3);
  place(indices[0], origin);
  const plane = new Float64Array(3);
  for (let i = 0; i + 2 < indices.length; i += 3) {
    [a, b, c].forEach((corner, k) => place(indices[i + k], corner));
    for (let k = 0; k < 3; k++) {
      a[k] -= origin[k];
      b[k] -= origin[k];
      c[k] -= origin[k];
    }
    const normal = [0, 1, 2].map((k) => {
      const [p, q] = [(k + 1) % 3, (k + 2) % 3];
      return (b[p] - a[p]) * (c[q] - a[q]) - (b[q] - a[q]) * (c[p] - a[p]);
    });
    const double = Math.hypot(...normal);
    area += double / 2;
    volume += (a[0] * normal[0] + a[1] * normal[1] + a[2] * normal[2]) / 6;
    // The first face that has an area tells the plane.
    if (double > 0 && plane.every((v) => v === 0)) normal.forEach((v, k) => (plane[k] = v / double));
    for (const corner of [a, b, c]) {
      size = Math.max(size, Math.hypot(corner[0], corner[1], corner[2]));
      off = Math.max(off, Math.abs(corner[0] * plane[0] + corner[1] * plane[1] + corner[2] * plane[2]));
    }
  }
  return { chord: area > 0 ? (4 * Math.abs(volume)) / area : 0, isFlat: off <= FLAT * size };
}
