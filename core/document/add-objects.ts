/**
 * Objects of one document put into another, with the meshes, materials, maps, coats and textures they need, each under an id that is
 * free there. Lights, cameras and sheets stay behind.
 *
 * @example
 * const { values, objects } = addedObjects(shot, crate, (path) => `props/${path}`);
 */
import { MAP_SLOTS } from './check-references.ts';
import { freeId } from './new-items.ts';
import type { ControlValues } from './set-values.ts';
import type { MapSpec, ShotDocument } from './schema.ts';

const PARTS = ['textures', 'maps', 'coats', 'materials', 'meshes', 'objects'] as const;
type Part = (typeof PARTS)[number];

export interface AddedObjects {
  /** Whole items by pointer. */
  values: ControlValues;
  /** Ids of the objects in the document they go to. */
  objects: string[];
}

/** @param pathIn where a file of `from` stands among those of `document` */
export function addedObjects(
  document: ShotDocument,
  from: ShotDocument,
  pathIn: (path: string) => string,
): AddedObjects {
  const ids = Object.fromEntries(PARTS.map((part) => [part, new Map<string, string>()])) as Record<Part, Map<string, string>>; // prettier-ignore
  for (const part of PARTS) {
    const taken: Record<string, unknown> = { ...document[part] };
    for (const id of Object.keys(from[part])) {
      const free = freeId(taken, id);
      taken[free] = true;
      ids[part].set(id, free);
    }
  }
  const idOf = <T extends string | null>(part: Part, id: T) => (id === null ? null : ids[part].get(id)!) as T;
  const values: ControlValues = {};
  const put = (part: Part, id: string, item: unknown) => (values[`/${part}/${ids[part].get(id)}`] = item);
  for (const [id, one] of Object.entries(from.textures)) put('textures', id, { ...one, file: pathIn(one.file) });
  for (const [id, one] of Object.entries(from.maps)) put('maps', id, movedMap(one));
  for (const [id, one] of Object.entries(from.coats))
    put('coats', id, one.kind === 'shared' ? { ...one, file: pathIn(one.file) } : one);
  for (const [id, one] of Object.entries(from.materials)) {
    const slots = Object.fromEntries(MAP_SLOTS.map((slot) => [slot, idOf('maps', one[slot])]));
    put('materials', id, { ...one, ...slots, coat: idOf('coats', one.coat) });
  }
  for (const [id, one] of Object.entries(from.meshes)) put('meshes', id, { ...one, file: pathIn(one.file) });
  for (const [id, one] of Object.entries(from.objects)) {
    const keys = one.keys.map((key) => ({ ...key, mesh: idOf('meshes', key.mesh) }));
    put('objects', id, { ...one, mesh: idOf('meshes', one.mesh), material: idOf('materials', one.material), keys });
  }
  return { values, objects: [...ids.objects.values()] };

  function movedMap(map: MapSpec | Extract<ShotDocument['maps'][string], { kind: 'shared' }>) {
    if (map.kind === 'image') return { ...map, texture: idOf('textures', map.texture) };
    return map.kind === 'shared' ? { ...map, file: pathIn(map.file) } : map;
  }
}
