/**
 * Where an object stands at a time.
 *
 * Time within the shutter is cut into slices; a moving object has an instance for each, at the place it has
 * in the slice's middle. The sheet's motion samples say at how many times of the shutter its keys are
 * asked; in between it moves straight.
 */
import type { Mesh } from '../../data/mesh.ts';
import { between, type Transform } from '../../data/transform.ts';
import type { ObjectSpec, Sheet } from '../../document/schema.ts';

/** Slices of the time the shutter is open, if anything moves. */
export const SLICES = 64;
/** Slices that share one mesh of a deforming object. */
const MESH_SLICES = 8;

export interface Pose {
  transform: Transform;
  /** Meshes of a deforming object before and after, and how far between them it is. */
  meshes: { from: string; to: string; share: number } | null;
}

/** At any frame, by the object's keys; before the first and after the last it rests. */
export function poseAt(object: ObjectSpec, frame: number): Pose {
  const { keys, motion } = object;
  if (motion === 'static' || keys.length === 0) return { transform: object.transform, meshes: null };
  const after = keys.findIndex((key) => key.frame >= frame);
  const to = keys[after < 0 ? keys.length - 1 : after];
  const from = after <= 0 ? to : keys[after - 1];
  const share = from === to ? 0 : (frame - from.frame) / (to.frame - from.frame);
  const fallback = object.mesh ?? '';
  return {
    transform: between(from.transform, to.transform, share),
    meshes: motion === 'deforming' ? { from: from.mesh ?? fallback, to: to.mesh ?? fallback, share } : null,
  };
}

/** Poses of an object in each slice of the shutter; one alone where it does not blur. */
export function posesInShutter(object: ObjectSpec, frame: number, { samples, shutter }: Sheet['motion']): Pose[] {
  if (object.motion === 'static' || object.keys.length < 2 || samples < 2 || shutter === 0)
    return [poseAt(object, frame)];
  const asked = Array.from({ length: samples }, (_, k) => poseAt(object, frame + (shutter * k) / (samples - 1)));
  return Array.from({ length: SLICES }, (_, slice) => {
    const place = ((slice + 0.5) / SLICES) * (samples - 1);
    const k = Math.min(samples - 2, Math.floor(place));
    const w = place - k;
    const coarse = (Math.floor(slice / MESH_SLICES) + 0.5) / (SLICES / MESH_SLICES);
    return {
      transform: asked[k].transform.map((a, i) => a + w * (asked[k + 1].transform[i] - a)),
      meshes: poseAt(object, frame + shutter * coarse).meshes,
    };
  });
}

/** The mesh between two of the same make; the nearer one when they differ. */
export function blendMeshes(from: Mesh, to: Mesh, share: number): Mesh {
  if (share === 0 || from === to) return from;
  if (from.positions.length !== to.positions.length || from.indices.length !== to.indices.length)
    return share < 0.5 ? from : to;
  const mix = (a: Float32Array, b: Float32Array) => a.map((value, i) => value + share * (b[i] - value));
  return {
    ...from,
    positions: mix(from.positions, to.positions),
    normals: from.normals && to.normals && mix(from.normals, to.normals),
  };
}
