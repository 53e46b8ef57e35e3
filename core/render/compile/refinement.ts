/**
 * How many times the faces of an object are divided: as often as it asks for, or as few times as bring its edges down to so many
 * pixels; never more often than the sheet lets it. One level all over an object keeps it watertight.
 *
 * @example
 * const level = levelOf(object, [mesh], pose.transform, refinementOf(document, sheet));
 */
import type { Mesh } from '../../data/mesh.ts';
import type { Transform } from '../../data/transform.ts';
import type { ObjectSpec, Sheet, ShotDocument } from '../../document/schema.ts';
import { CAMERA_AHEAD, CAMERA_UP } from '../scene/scene.ts';
import { compileCamera } from './camera.ts';

export interface Refinement {
  /** Levels that the sheet lets objects have; null: any. */
  most: number | null;
  /** Where the camera is, and the metres that a pixel covers a metre away from it. */
  eye: readonly number[];
  pixel: number;
  /** Meshes that are parts of one, split by material, by each of them; only where there are several. */
  parts: ReadonlyMap<string, readonly string[]>;
}

export function refinementOf(
  document: ShotDocument,
  { width, height, mostSubdivision }: Pick<Sheet, 'width' | 'height' | 'mostSubdivision'>,
): Refinement {
  const camera = compileCamera(document, width / height);
  const size = (at: number) => Math.hypot(camera[at], camera[at + 1], camera[at + 2]);
  return { most: mostSubdivision, eye: [...camera.subarray(0, 3)], pixel: (2 * size(CAMERA_UP)) / (size(CAMERA_AHEAD) * height), parts: partsOf(document) }; // prettier-ignore
}

/** What stands in one mesh of a file is one mesh, a part for each material. */
function partsOf({ meshes }: ShotDocument): Map<string, string[]> {
  const byMesh = new Map<string, string[]>();
  for (const [id, { file, mesh }] of Object.entries(meshes)) {
    const key = `${mesh} ${file}`;
    const own = byMesh.get(key);
    if (own) own.push(id);
    else byMesh.set(key, [id]);
  }
  const several = [...byMesh.values()].filter((ids) => new Set(ids.map((id) => meshes[id].primitive)).size > 1);
  const sorted = several.map((ids) => onePerPart(ids.sort((a, b) => meshes[a].primitive - meshes[b].primitive), meshes)); // prettier-ignore
  return new Map(sorted.flatMap((ids) => ids.map((id) => [id, ids] as const)));
}

/** A part that has two names stands once. */
const onePerPart = (ids: string[], meshes: ShotDocument['meshes']): string[] =>
  ids.filter((id, i) => i === 0 || meshes[id].primitive !== meshes[ids[i - 1]].primitive);

/**
 * Distances count in every direction, not in the frame alone: what stands behind the camera is in mirrors and throws shadows.
 * @param meshes before they are subdivided: the object's own, or all parts of what it is a part of
 */
export function levelOf({ subdivision }: ObjectSpec, meshes: readonly Mesh[], transform: Transform, { most, eye, pixel }: Refinement): number {
  const level = Math.min(subdivision.level, most ?? Infinity);
  if (subdivision.edgePixels === null || level === 0) return level;
  const longest = Math.max(...meshes.map((mesh) => longestEdge(mesh, transform, eye))) / pixel;
  return Math.min(level, Math.max(0, Math.ceil(Math.log2(longest / subdivision.edgePixels) - 1e-9)));
} // prettier-ignore

/** The longest edge that a face has over its distance: of a triangle, the side of the square that two like it make. */
function longestEdge({ positions, indices }: Mesh, transform: Transform, eye: readonly number[]): number {
  const places = new Float64Array(positions.length);
  const m = transform;
  for (let i = 0; i < positions.length; i += 3)
    for (let a = 0; a < 3; a++) places[i + a] = m[a] * positions[i] + m[4 + a] * positions[i + 1] + m[8 + a] * positions[i + 2] + m[12 + a]; // prettier-ignore
  let longest = 0;
  for (let t = 0; t < indices.length; t += 3) {
    const [a, b, c] = [3 * indices[t], 3 * indices[t + 1], 3 * indices[t + 2]];
    const [ux, uy, uz] = [places[b] - places[a], places[b + 1] - places[a + 1], places[b + 2] - places[a + 2]];
    const [vx, vy, vz] = [places[c] - places[a], places[c + 1] - places[a + 1], places[c + 2] - places[a + 2]];
    const area = Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx);
    let near = Infinity;
    for (const k of [a, b, c]) near = Math.min(near, Math.hypot(places[k] - eye[0], places[k + 1] - eye[1], places[k + 2] - eye[2])); // prettier-ignore
    longest = Math.max(longest, Math.sqrt(area) / Math.max(near, 1e-6));
  }
  return longest;
}
