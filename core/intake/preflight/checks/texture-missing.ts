import { STOP, type Check } from '../check.ts';
import { count } from '../tell.ts';
import type { SourceImage } from '../../../formats/source-scene.ts';
import { TILE } from '../../../textures/tiles.ts';

export const textureMissing: Check = {
  id: 'texture-missing',
  group: 'travel',
  title: 'Missing textures',
  why: 'Surfaces that use the texture render plain.',
  threshold: STOP,
  run(scene) {
    const { images, references } = scene.source;
    const whole = images.flatMap(({ bytes, where }, i) =>
      bytes ? [] : [{ object: scene.imageName(i), detail: `named by ${where}`, count: 1 }],
    );
    // Of an image in tiles those that are there are read; the others are references that came to nothing.
    const tiles = references
      .filter(({ kind, resolved, path }) => kind === 'image' && resolved === null && isTileOf(images, path))
      .map(({ path, neededBy }) => ({ object: path, detail: `tile named by ${neededBy}`, count: 1 }));
    const offenders = [...whole, ...tiles];
    return { expected: 'every texture is there', found: count(offenders, 'missing texture'), offenders };
  },
};

/** Whether a path is a tile of an image of which others are there. */
const isTileOf = (images: readonly SourceImage[], path: string): boolean =>
  images.some(({ path: written, bytes }) => {
    if (!bytes || !written.includes(TILE)) return false;
    const [before, after] = [written.slice(0, written.indexOf(TILE)), written.slice(written.indexOf(TILE) + TILE.length)]; // prettier-ignore
    return path.startsWith(before) && path.endsWith(after);
  });
