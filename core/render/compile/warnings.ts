/** What is unusual about a scene, though it can be rendered: one sentence each, naming the item. */
import { spacing } from '../../data/float32.ts';
import type { Mesh } from '../../data/mesh.ts';
import type { ShotDocument } from '../../document/schema.ts';
import type { KeptParts } from '../../geometry/kept-parts.ts';
import { mapOf, type Assets } from './assets.ts';
import { isPlacedByUvs } from './displace.ts';
import type { SceneSheet } from '../scene/scene-sheet.ts';
import { poseAt } from './motion.ts';

/** Spacing of 32-bit numbers above which edges visibly shake, metres. Source: IEEE 754 (2⁻²³ of the value). */
const VISIBLE_SPACING = 1e-3;

export function sceneWarnings(document: ShotDocument, assets: Assets, sheet: SceneSheet, kept?: KeptParts): string[] {
  const warnings: string[] = [];
  for (const [id, mesh] of [...assets.meshes].sort(([a], [b]) => (a < b ? -1 : 1))) {
    const flat = kept ? kept.of(mesh, 'flat', () => flatTriangles(mesh)) : flatTriangles(mesh);
    if (flat > 0) warnings.push(`Mesh "${id}" has ${flat} triangles without area; rays pass them by.`);
  }
  for (const [id, { hidden, shape, mesh, material }] of Object.entries(document.objects)) {
    const { displacementMap, displacementScale } = document.materials[material];
    const made = mesh === null ? undefined : assets.meshes.get(mesh);
    if (hidden || shape !== 'mesh' || displacementMap === null || displacementScale === 0 || !made) continue;
    const map = mapOf(document, assets, displacementMap);
    const looksAtUvs = map.kind !== 'noise-object' && map.kind !== 'waves';
    if (looksAtUvs && !(map.uvSet === 0 ? made.uvs : made.uvs2))
      warnings.push(`Object "${id}" has no UVs for its displacement map, which moves all of it alike.`);
  }
  for (const [id, { displacementMap, displacementKind, displacementDetail }] of Object.entries(document.materials))
    if (
      displacementMap !== null &&
      displacementDetail &&
      (displacementKind !== 'height' || !isPlacedByUvs(mapOf(document, assets, displacementMap)))
    )
      warnings.push(
        `Material "${id}" has no bump of what its mesh is too coarse for: that is for heights by UVs, not for vectors or maps in the object’s space.`,
      );
  if (sheet.precision === 'single') {
    let far = 0;
    let farthest = '';
    for (const [id, object] of Object.entries(document.objects)) {
      const m = poseAt(object, document.frame).transform;
      const distance = Math.max(Math.abs(m[12]), Math.abs(m[13]), Math.abs(m[14]));
      if (!object.hidden && object.shape === 'mesh' && distance > far) [far, farthest] = [distance, id];
    }
    const step = spacing(far);
    if (step > VISIBLE_SPACING)
      warnings.push(
        `Object "${farthest}" stands ${(far / 1000).toFixed(1)} km from the origin, where positions of single precision are ${(step * 1000).toFixed(1)} mm apart.`,
      );
  }
  return warnings;
}

function flatTriangles({ positions, indices }: Mesh): number {
  let flat = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3];
    const u = [0, 1, 2].map((k) => positions[b + k] - positions[a + k]);
    const v = [0, 1, 2].map((k) => positions[c + k] - positions[a + k]);
    if (u[1] * v[2] === u[2] * v[1] && u[2] * v[0] === u[0] * v[2] && u[0] * v[1] === u[1] * v[0]) flat++;
  }
  return flat;
}
