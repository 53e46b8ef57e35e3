/** Where on its object a hit lies, for maps: UVs, and the place in the object's own space. */
import type { i32 } from '../../data/numbers.ts';
import type { MapSampler } from '../../textures/map-sampler.ts';
import { IS_FLOOR, type CompiledScene } from './scene.ts';

/**
 * Sets the sampler to the point of a triangle with corner weights (1 − u − v, u, v) that stands at (x, y, z) in
 * the world. UVs of an endless floor are metres along its X and −Z.
 */
export function placeMaps(
  scene: CompiledScene,
  sampler: MapSampler,
  instance: i32,
  triangle: i32,
  u: number,
  v: number,
  x: number,
  y: number,
  z: number,
): void {
  const { geometry, toObject, instanceFlags } = scene;
  const { uv, object } = sampler;
  const m = instance * 12;
  object[0] = toObject[m] * x + toObject[m + 1] * y + toObject[m + 2] * z + toObject[m + 3];
  object[1] = toObject[m + 4] * x + toObject[m + 5] * y + toObject[m + 6] * z + toObject[m + 7];
  object[2] = toObject[m + 8] * x + toObject[m + 9] * y + toObject[m + 10] * z + toObject[m + 11];
  const mesh = geometry.meshes[geometry.instanceMesh[instance]];
  if ((instanceFlags[instance] & IS_FLOOR) !== 0) {
    uv[0] = uv[2] = object[0];
    uv[1] = uv[3] = -object[2];
    return;
  }
  const { uvs, uvs2, indices } = mesh;
  const first = uvs !== null ? uvs : uvs2;
  if (first === null) {
    uv[0] = uv[1] = uv[2] = uv[3] = 0;
    return;
  }
  const i = indices[triangle * 3] * 2;
  const j = indices[triangle * 3 + 1] * 2;
  const k = indices[triangle * 3 + 2] * 2;
  const w = 1 - u - v;
  uv[0] = w * first[i] + u * first[j] + v * first[k];
  uv[1] = w * first[i + 1] + u * first[j + 1] + v * first[k + 1];
  const second = uvs2 !== null ? uvs2 : first;
  uv[2] = w * second[i] + u * second[j] + v * second[k];
  uv[3] = w * second[i + 1] + u * second[j + 1] + v * second[k + 1];
}
