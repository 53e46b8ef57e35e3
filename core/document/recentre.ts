/** A whole shot moved: objects and what moves them, lights, cameras and fog; what has no place (suns, skies) stays. */
import type { Transform } from '../data/transform.ts';
import type { Triple } from '../data/placement.ts';
import type { ControlValues } from './set-values.ts';
import type { ShotDocument } from './schema.ts';

/**
 * Values that move everything by −`by`. Sums are exact where `by` is whole metres and coordinates are multiples of 2⁻³⁰ m:
 * nothing but the place changes.
 *
 * @example recentred(document, [40_000, 0, -3_000])
 */
export function recentred(document: ShotDocument, by: Triple): ControlValues {
  const moved = (transform: Transform): Transform => transform.map((v, i) => (i >= 12 && i < 15 ? v - by[i - 12] : v)) as Transform; // prettier-ignore
  const values: ControlValues = {};
  for (const [id, { transform, keys }] of Object.entries(document.objects)) {
    values[`/objects/${id}/transform`] = moved(transform);
    if (keys.length > 0) values[`/objects/${id}/keys`] = keys.map((key) => ({ ...key, ...(key.transform ? { transform: moved(key.transform) } : {}) })); // prettier-ignore
  }
  for (const [id, light] of Object.entries(document.lights)) if (light.kind !== 'mesh') values[`/lights/${id}/transform`] = moved(light.transform); // prettier-ignore
  for (const [id, { transform }] of Object.entries(document.cameras)) values[`/cameras/${id}/transform`] = moved(transform); // prettier-ignore
  const box = document.fog?.box;
  if (box) values['/fog/box'] = { min: box.min.map((v, a) => v - by[a]), max: box.max.map((v, a) => v - by[a]) };
  return values;
}
