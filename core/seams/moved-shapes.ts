/** Objects whose mesh a map moves, as they stand: what seams are measured on. */
import type { Mesh } from '../data/mesh.ts';
import type { CompiledScene } from '../render/scene/scene.ts';

export interface MovedShape {
  /** Number of the object. */
  object: number;
  mesh: Pick<Mesh, 'indices' | 'positions' | 'uvs'> & { before: Float32Array };
  /** Three rows of the mesh-to-world transform. */
  toWorld: Float64Array;
}

/** Each object once: of one that moves, as it stands when the shutter opens. */
export function movedShapes({ geometry, instanceObject }: CompiledScene): MovedShape[] {
  const seen = new Set<number>();
  return [...instanceObject].flatMap((object, instance) => {
    const { indices, positions, uvs, before } = geometry.meshes[geometry.instanceMesh[instance]];
    if (!before || seen.has(object)) return [];
    seen.add(object);
    return [{ object, mesh: { indices, positions, uvs, before }, toWorld: geometry.toWorld.subarray(instance * 12, instance * 12 + 12) }]; // prettier-ignore
  });
}
