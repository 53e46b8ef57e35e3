/**
 * Materials taken off all objects that have them, and another put in their place: what came in with a scene and is not what
 * was meant is one change away from one of ours, or from plain grey.
 *
 * @example
 * const values = reassigned(document, ['gltf-material-3'], null);   // plain grey, added where there is none
 */
import { defaultMaterial } from './defaults.ts';
import { freeId } from './new-items.ts';
import type { ControlValues } from './set-values.ts';
import type { ShotDocument } from './schema.ts';

/** Name of the neutral default: an opaque grey of middling roughness, without maps. */
export const PLAIN = 'plain grey';

/** Ids of objects that have one of the materials. */
export function wearersOf(document: ShotDocument, materials: readonly string[]): string[] {
  return Object.keys(document.objects).filter((id) => materials.includes(document.objects[id].material));
}

/**
 * @param to id of another material; null: the neutral default, which is added unless the document has it
 * @returns values by pointer that are one change
 * @throws RangeError where no object has any of them, or `to` is no material
 */
export function reassigned(document: ShotDocument, materials: readonly string[], to: string | null): ControlValues {
  const wearers = wearersOf(document, materials.filter((id) => id !== to)); // prettier-ignore
  if (wearers.length === 0) throw new RangeError('no object has the material');
  if (to !== null && !Object.hasOwn(document.materials, to)) throw new RangeError(`there is no material "${to}"`);
  const own = to ?? plainOf(document);
  const values: ControlValues = {};
  if (own === null) {
    const id = freeId(document.materials, PLAIN);
    values[`/materials/${id}`] = { ...defaultMaterial(), name: PLAIN };
    for (const wearer of wearers) values[`/objects/${wearer}/material`] = id;
  } else for (const wearer of wearers) values[`/objects/${wearer}/material`] = own;
  return values;
}

/** Id of the neutral default where the document has it, unchanged. */
function plainOf(document: ShotDocument): string | null {
  const plain = JSON.stringify(Object.entries({ ...defaultMaterial(), name: PLAIN }).sort());
  const found = Object.entries(document.materials).find(([, one]) => JSON.stringify(Object.entries(one).sort()) === plain); // prettier-ignore
  return found?.[0] ?? null;
}
