import { CAUTION, type Check } from '../check.ts';
import { count, metres, objectFaults } from '../tell.ts';

/** Metres at which a step is half a millimetre. */
const FAR = 4096;

export const farFromOrigin: Check = {
  id: 'far-from-origin',
  group: 'space',
  title: 'Distance from the origin',
  why: 'Numbers of 32 bits have steps of 4 mm at 40 km: edges shake and shadows break up where a renderer keeps places in them.',
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
    return { expected: `within ${metres(FAR)}`, found: count(offenders, 'object'), offenders };
  },
};
