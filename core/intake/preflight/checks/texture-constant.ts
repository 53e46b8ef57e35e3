import { readTexture } from '../../../formats/texture-readers.ts';
import type { Check } from '../check.ts';
import { count } from '../tell.ts';

/** Texels a byte from which on an image may be of one colour all over: only those are unpacked here. */
const PACKED = 20;

/** Told where a profile asks for it: placeholders are of one colour until they are painted. */
export const textureConstant: Check = {
  id: 'texture-constant',
  group: 'weight',
  title: 'Single-colour textures',
  why: 'A constant value does the same, and takes no memory.',
  threshold: { caution: null, stop: null },
  run(scene) {
    const offenders = scene.source.images.flatMap(({ bytes, tiles }, i) => {
      const header = scene.header(i);
      if (!bytes || !header || tiles.length > 1 || header.width * header.height < PACKED * bytes.byteLength) return [];
      try {
        const { texels, alpha, width, height } = readTexture(bytes, 'linear', scene.imageName(i));
        const isOne = texels.every((value, k) => value === texels[k % 3]) && (alpha?.every((value) => value === alpha[0]) ?? true); // prettier-ignore
        return isOne ? [{ object: scene.imageName(i), detail: `${width} × ${height} texels of one colour`, count: 1 }] : []; // prettier-ignore
      } catch {
        // What cannot be read is told where it is rendered.
        return [];
      }
    });
    return { expected: 'images with more than one colour', found: count(offenders, 'texture'), offenders };
  },
};
