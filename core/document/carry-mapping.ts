/**
 * Where maps lie on a surface, carried from one object to those like it: copies of its mesh, and objects whose name differs in
 * its number alone.
 *
 * @example
 * const like = alikeObjects(document, 'crate-1');              // ['crate-2', 'crate-3']
 * const values = carriedMapping(document, 'crate-1', like);    // { '/maps/planks-2/rotation': 90, … }
 */
import { MAP_SLOTS } from './check-references.ts';
import type { ControlValues } from './set-values.ts';
import type { MaterialSpec, ShotDocument } from './schema.ts';

/** What says where a map lies. */
const PLACED = ['uvSet', 'offset', 'rotation', 'scale'] as const;

const copyOf = <T>(value: T): T => (Array.isArray(value) ? ([...value] as T) : value);
const stemOf = (name: string): string => name.toLowerCase().replace(/[\s_.-]*\d+$/, '');

/** Ids of other objects of the same mesh, or whose names differ in their number alone. */
export function alikeObjects(document: ShotDocument, id: string): string[] {
  const { mesh, name } = document.objects[id];
  const stem = stemOf(name || id);
  return Object.entries(document.objects)
    .filter(
      ([other, one]) =>
        other !== id && ((mesh !== null && one.mesh === mesh) || (stem !== '' && stemOf(one.name || other) === stem)),
    ) // prettier-ignore
    .map(([other]) => other);
}

/**
 * @returns values by pointer that give maps of the same slot the offset, rotation, scale and UV set of the first object's; none where they lie
 *   alike, and none for maps that stand in another file
 */
export function carriedMapping(document: ShotDocument, from: string, to: readonly string[]): ControlValues {
  const materialOf = (id: string): MaterialSpec => document.materials[document.objects[id].material];
  const own = materialOf(from);
  const kept = new Set(MAP_SLOTS.map((slot) => own[slot]));
  const values: ControlValues = {};
  for (const id of to)
    for (const slot of MAP_SLOTS) {
      const [source, target] = [own[slot], materialOf(id)[slot]];
      if (source === null || target === null || kept.has(target)) continue;
      const [a, b] = [document.maps[source], document.maps[target]];
      if (a.kind === 'shared' || b.kind === 'shared') continue;
      for (const key of PLACED)
        if (JSON.stringify(a[key]) !== JSON.stringify(b[key])) values[`/maps/${target}/${key}`] = copyOf(a[key]);
    }
  return values;
}
