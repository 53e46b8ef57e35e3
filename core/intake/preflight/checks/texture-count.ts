import { type Check } from '../check.ts';
import { plural } from '../tell.ts';

export const textureCount: Check = {
  id: 'texture-count',
  group: 'weight',
  title: 'Textures',
  why: 'Every image is opened on every machine, and so is each tile of a UDIM set.',
  threshold: { caution: 1_000, stop: 10_000 },
  run({ source }) {
    const amount = source.images.reduce((sum, { tiles }) => sum + Math.max(1, tiles.length), 0);
    const tiled = source.images.filter(({ tiles }) => tiles.length > 1);
    return {
      expected: 'few enough to open quickly',
      found: plural(amount, 'image'),
      amount,
      offenders: tiled.map(({ path, tiles }) => ({
        object: path,
        detail: plural(tiles.length, 'tile'),
        count: tiles.length,
      })),
    };
  },
};
