import { STOP, type Check } from '../check.ts';
import { count } from '../tell.ts';

export const textureMissing: Check = {
  id: 'texture-missing',
  group: 'travel',
  title: 'Missing textures',
  why: 'Surfaces that use the texture render plain.',
  threshold: STOP,
  run(scene) {
    const offenders = scene.source.images.flatMap(({ bytes, where }, i) =>
      bytes ? [] : [{ object: scene.imageName(i), detail: `named by ${where}`, count: 1 }],
    );
    return { expected: 'every texture is there', found: count(offenders, 'missing texture'), offenders };
  },
};
