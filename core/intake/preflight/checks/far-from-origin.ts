import type { ShotDocument } from '../../../document/schema.ts';
import { setValues } from '../../repairs/offer.ts';
import type { Scene } from '../scene.ts';
import { CAUTION, type Check } from '../check.ts';
import { count, metres, objectFaults } from '../tell.ts';

/** Metres at which a step is half a millimetre. */
const FAR = 4096;

export const farFromOrigin: Check = {
  id: 'far-from-origin',
  group: 'space',
  title: 'Distance from the origin',
  why: 'Single precision has steps of 4 mm at 40 km: edges jitter and shadows break up in renderers that use it.',
  threshold: CAUTION,
  run(scene) {
    const offenders = objectFaults(scene, (object) => {
      const { min, max } = scene.worldBounds(object);
      const away = Math.max(...min.map((v, a) => Math.max(Math.abs(v), Math.abs(max[a]))));
      // One step of a 32-bit number there (IEEE 754).
      const step = 2 ** (Math.floor(Math.log2(away)) - 23);
      return Number.isFinite(away) && away >= FAR
        ? `${metres(away)} away, where single precision has steps of ${metres(step)}`
        : null;
    });
    return {
      expected: `within ${metres(FAR)}`,
      found: count(offenders, 'object'),
      offenders,
      repair: offenders.length > 0 ? toOrigin(scene) : null,
    };
  },
};

/** Everything moved by whole metres so that the middle of what there is stands at the origin; null where that would not help. */
function toOrigin(scene: Scene) {
  const { document } = scene;
  const { min, max } = scene.bounds;
  const middle = min.map((v, a) => Math.round((v + max[a]) / 2));
  const isWide = max.some((v, a) => v - min[a] >= FAR);
  if (!document || isWide || !middle.every(Number.isFinite)) return null;
  const told = middle.map((v) => `${v} m`).join(', ');
  return setValues(`Move everything by −(${told})`, document, movedValues(document, middle));
}

/** Transforms of all that has a place, by their pointers. */
function movedValues({ objects, lights, cameras, fog }: ShotDocument, by: number[]): Record<string, unknown> {
  const moved = (transform: readonly number[]) => transform.map((v, i) => (i >= 12 && i < 15 ? v - by[i - 12] : v));
  const values: Record<string, unknown> = {};
  for (const [id, object] of Object.entries(objects)) {
    values[`/objects/${id}/transform`] = moved(object.transform);
    object.keys.forEach((key, k) => {
      if (key.transform) values[`/objects/${id}/keys/${k}/transform`] = moved(key.transform);
    });
  }
  for (const [id, { transform }] of Object.entries(lights)) values[`/lights/${id}/transform`] = moved(transform);
  for (const [id, { transform }] of Object.entries(cameras)) values[`/cameras/${id}/transform`] = moved(transform);
  if (fog?.box) {
    values['/fog/box/min'] = fog.box.min.map((v, a) => v - by[a]);
    values['/fog/box/max'] = fog.box.max.map((v, a) => v - by[a]);
  }
  return values;
}
