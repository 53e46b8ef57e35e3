import { CAUTION, type Check } from '../check.ts';
import { count } from '../tell.ts';

export const textureBitDepth: Check = {
  id: 'texture-bit-depth',
  group: 'surface',
  title: 'Bit depth',
  why: 'Eight bits turn displacement or bump into terraces; a float image loses its highlights.',
  threshold: CAUTION,
  run(scene) {
    const offenders = scene.worn.flatMap(({ texture: { slot, image }, material }) => {
      const header = scene.header(image);
      const isHeight = slot === 'displacement' || slot === 'bump';
      return header && isHeight && header.bits <= 8
        ? [{ object: scene.imageName(image), detail: `${slot} of "${material}" has ${header.bits} bits`, count: 1 }]
        : [];
    });
    return { expected: '16 bits or more for heights', found: count(offenders, 'texture'), offenders };
  },
};
