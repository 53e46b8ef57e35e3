/** What the mesh of an object is, as it is rendered: closed or open, turned out or in. Worked out once a mesh. */
import { polygonsOf } from '../data/poly-mesh.ts';
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
    isInsideOut: isClosed && mixedEdges.length === 0 && volume * determinant(rows) < 0,
    openEdges: openEdges.length,
    mixedEdges: mixedEdges.length,
    min,
    max,
  };
}

const determinant = (m: Float64Array): number =>
  m[0] * (m[5] * m[10] - m[6] * m[9]) - m[1] * (m[4] * m[10] - m[6] * m[8]) + m[2] * (m[4] * m[9] - m[5] * m[8]);
