/** Everything taken out of the document that nothing else in it comes to: maps, coats, textures, meshes. */
import type { PreflightRepair } from '../../contracts/intake.ts';
import { MAP_SLOTS } from '../../document/check-references.ts';
import type { JsonPatch } from '../../document/patch.ts';
import { stemOf } from '../../formats/siblings.ts';
import type { ShotDocument } from '../../document/schema.ts';

export function withoutUnused(document: ShotDocument | null): PreflightRepair | null {
  if (!document) return null;
  const { materials, objects, environment, background } = document;
  const maps = new Set(Object.values(materials).flatMap((material) => MAP_SLOTS.map((slot) => material[slot])));
  const coats = new Set(Object.values(materials).map(({ coat }) => coat));
  const meshes = new Set(Object.values(objects).flatMap(({ mesh, keys }) => [mesh, ...keys.map((key) => key.mesh)]));
  const textures = new Set([environment.texture, background?.texture]);
  for (const [id, map] of Object.entries(document.maps))
    if (maps.has(id) && map.kind === 'image') textures.add(map.texture);
  // What may have the alpha that another one has lost stays.
  const stems = new Set([...textures].flatMap((id) => (id ? [stemOf(document.textures[id].file)] : [])));
  for (const [id, { file }] of Object.entries(document.textures)) if (stems.has(stemOf(file))) textures.add(id);
  const removed = (kind: 'maps' | 'coats' | 'textures' | 'meshes', used: Set<unknown>): JsonPatch =>
    Object.entries(document[kind])
      .filter(([id]) => !used.has(id))
      .flatMap(([id, value]) => [
        { op: 'test', path: `/${kind}/${id}`, value },
        { op: 'remove', path: `/${kind}/${id}` },
      ]);
  const patch = [
    ...removed('maps', maps),
    ...removed('coats', coats),
    ...removed('textures', textures),
    ...removed('meshes', meshes),
  ];
  return patch.length ? { label: 'Take out what nothing uses', patch, work: null } : null;
}
