import type { Check } from '../check.ts';
import { count } from '../tell.ts';

/** Told where a profile asks for it: shots are packed with such files on purpose, too. */
export const textureDuplicate: Check = {
  id: 'texture-duplicate',
  group: 'weight',
  title: 'Textures that are there twice',
  why: 'Each copy takes memory of its own, and one is forgotten when the other is changed.',
  threshold: { caution: null, stop: null },
  run(scene) {
    const first = new Map<number, number[]>();
    const offenders = scene.source.images.flatMap(({ bytes, tiles }, i) => {
      if (!bytes || tiles.length > 1) return [];
      const alike = first.get(bytes.byteLength) ?? [];
      const same = alike.find((other) => isSame(bytes, scene.source.images[other].bytes!));
      if (same === undefined) first.set(bytes.byteLength, [...alike, i]);
      return same === undefined ? [] : [{ object: scene.imageName(i), detail: `the same bytes as ${scene.imageName(same)}`, count: 1 }]; // prettier-ignore
    });
    return { expected: 'each image once', found: count(offenders, 'copy', 'copies'), offenders };
  },
};

const isSame = (a: Uint8Array, b: Uint8Array): boolean => a.every((byte, i) => byte === b[i]);
