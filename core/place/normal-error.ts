/** How far what a triangle is shaded with is off for normals that look away from their face. */
import type { Intersector } from '../geometry/intersector.ts';
import { IS_FLAT, type CompiledScene } from '../render/scene/scene.ts';

/** Cosine to the face below which a corner's normal is meant for its other side: smooth ones at sharp edges come near a right angle. */
const AGAINST = -0.2;
/** As `Shading` has it: what turns away from the viewer further is not shaded with. */
const TURNED = 1e-4;

/**
 * Of the last hit of an intersector, whose corners have normals against their face: degrees between the normal that it is shaded
 * with, maps apart, and the one that it would be with those corners turned about. 0: there are none, or it makes no difference.
 * @param ray origin and unit direction of the hit
 */
export function normalError(scene: CompiledScene, rays: Intersector, ray: Float64Array): number {
  const { geometry } = scene;
  const { instance, triangle, u, v } = rays;
  const { normals, indices } = geometry.meshes[geometry.instanceMesh[instance]];
  if (!normals || (scene.instanceFlags[instance] & IS_FLAT) !== 0) return 0;
  const face = [0, 0, 0];
  rays.faceNormal(face as unknown as Float64Array);
  const size = Math.hypot(...face);
  const weights = [1 - u - v, u, v];
  const [as, right] = [[0, 0, 0], [0, 0, 0]]; // prettier-ignore
  let isAgainst = false;
  for (let k = 0; k < 3; k++) {
    const o = indices[triangle * 3 + k] * 3;
    const n = [normals[o], normals[o + 1], normals[o + 2]];
    const turns = n[0] * face[0] + n[1] * face[1] + n[2] * face[2] < AGAINST * size;
    isAgainst ||= turns;
    for (let a = 0; a < 3; a++) {
      as[a] += weights[k] * n[a];
      right[a] += weights[k] * (turns ? -n[a] : n[a]);
    }
  }
  if (!isAgainst) return 0;
  const world = [as, right, face].map((n) => toWorld(geometry.toMesh, instance * 12, n));
  const side = -Math.sign(world[2][0] * ray[3] + world[2][1] * ray[4] + world[2][2] * ray[5]) || 1;
  const [shaded, meant] = world.map((n) => n.map((c) => c * side));
  const isUsed = -(shaded[0] * ray[3] + shaded[1] * ray[4] + shaded[2] * ray[5]) > TURNED;
  const used = isUsed ? shaded : world[2].map((c) => c * side);
  const cosine = used[0] * meant[0] + used[1] * meant[1] + used[2] * meant[2];
  return (Math.acos(Math.min(1, Math.max(-1, cosine))) * 180) / Math.PI;
}

/** Unit, by the transposed inverse. */
function toWorld(m: ArrayLike<number>, o: number, [x, y, z]: number[]): number[] {
  const out = [0, 1, 2].map((a) => m[o + a] * x + m[o + 4 + a] * y + m[o + 8 + a] * z);
  const length = Math.hypot(...out) || 1;
  return out.map((c) => c / length);
}
