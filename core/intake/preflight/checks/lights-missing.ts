import { STOP, type Check } from '../check.ts';
import { plural } from '../tell.ts';

export const lightsMissing: Check = {
  id: 'lights-missing',
  group: 'light',
  title: 'Light',
  why: 'Without light the picture is black.',
  threshold: STOP,
  run({ source }) {
    const { lights, environment, materials } = source;
    const shining = lights.filter(({ spec }) => spec.intensity > 0 && !spec.hidden).length;
    const glowing = materials.filter(({ spec }) => spec.emissionStrength > 0 && Math.max(...spec.emission) > 0).length;
    const around = environment !== null && environment.intensity > 0;
    const isLit = shining > 0 || glowing > 0 || around;
    const found = [
      plural(shining, 'light'),
      plural(glowing, 'glowing material'),
      around ? 'an environment' : 'no environment',
    ];
    return {
      expected: 'at least one thing that shines',
      found: found.join(', '),
      offenders: isLit ? [] : [{ object: source.file, detail: 'nothing in it shines', count: 1 }],
    };
  },
};
