import { spacing } from '../../../data/float32.ts';
import type { Triple } from '../../../data/placement.ts';
import { recentred } from '../../../document/recentre.ts';
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
      return Number.isFinite(away) && away >= FAR
        ? `${metres(away)} away, where single precision has steps of ${metres(spacing(away))}`
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
  const middle = min.map((v, a) => Math.round((v + max[a]) / 2)) as Triple;
  const isWide = max.some((v, a) => v - min[a] >= FAR);
  if (!document || isWide || !middle.every(Number.isFinite)) return null;
  const told = middle.map((v) => `${v} m`).join(', ');
  return setValues(`Move everything by −(${told})`, document, recentred(document, middle));
}
