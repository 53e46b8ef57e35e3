import { type Check } from '../check.ts';
import { bytes } from '../tell.ts';

export const textureMemory: Check = {
  id: 'texture-memory',
  group: 'weight',
  title: 'Texture memory',
  why: 'Textures are unpacked while rendering: four bytes per channel here, and a third more for mips.',
  threshold: { caution: 4 * 2 ** 30, stop: 16 * 2 ** 30 },
  run(scene) {
    const each = scene.source.images.map(({ tiles }, i) => {
      const header = scene.header(i);
      const size = header ? header.width * header.height * 4 * Math.max(3, header.channels) : 0;
      return { name: scene.imageName(i), header, size: (size * Math.max(1, tiles.length) * 4) / 3 };
    });
    const amount = each.reduce((sum, { size }) => sum + size, 0);
    return {
      expected: 'what the farm’s machines have',
      found: bytes(amount),
      amount,
      offenders: each
        .filter(({ size }) => size > 0)
        .sort((a, b) => b.size - a.size)
        .slice(0, 10)
        .map(({ name, header, size }) => ({
          object: name,
          detail: `${header!.width} × ${header!.height}, ${bytes(size)}`,
          count: 1,
        })),
    };
  },
};
