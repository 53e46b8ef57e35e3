import { STOP, type Check } from '../check.ts';
import { plural } from '../tell.ts';

export const lightsMissing: Check = {
  id: 'lights-missing',
  group: 'light',
  title: 'Lights',
  why: 'Without light the picture is black.',
  threshold: STOP,
  run(scene) {
    const { source } = scene;
    const { environment } = source;
    const shining = scene.shiningLights.length;
    const glowing = scene.glowingMaterials.length;
    const around = environment !== null && environment.intensity > 0;
    const isLit = scene.shines || around;
    const found = [
      plural(shining, 'light'),
      plural(glowing, 'glowing material'),
      around ? 'an environment' : 'no environment',
    ];
    return {
      expected: 'at least one light source',
      found: found.join(', '),
      offenders: isLit ? [] : [{ object: source.file, detail: 'no light source', count: 1 }],
    };
  },
};
