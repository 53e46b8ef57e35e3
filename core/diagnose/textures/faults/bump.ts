/** Bump maps so deep for their size that they stand steeper than any surface like it. Common practice, without a source: 1 is far too strong for small waves, 0.05 right. */
import { luminance } from '../../../data/colour.ts';
import type { Texture } from '../../../data/texture.ts';
import type { TextureFault } from '../fault.ts';

/** Slopes, rise over run: as steep as a roof, and what is proposed. */
const [STEEP, GENTLE] = [1.2, 0.3];

export const bump: TextureFault = {
  cause: 'textures.bump-too-strong',
  find: (uses, { document }) =>
    uses.flatMap(({ worn, image, metres, objects, pixels, spec }) => {
      const materials = [...new Set(worn.filter(({ slot }) => slot === 'bumpMap').map(({ material }) => material))];
      if (materials.length === 0 || !metres) return [];
      const depth = Math.max(...materials.map((id) => Math.abs(document.materials[id].bumpDepth)));
      const slope = (depth * steps(image)) / metres;
      if (slope < STEEP) return [];
      const proposed = +((depth * GENTLE) / slope).toPrecision(2);
      const names = materials.map((id) => document.materials[id].name || id).join(', ');
      return [
        {
          about: spec.texture,
          objects,
          pixels,
          passes: ['beauty', 'normal'],
          words: {
            sentence: `The bump of ${names} is too strong: ${slope.toFixed(1)} up for 1 along.`,
            headline: `Slopes of ${Math.round((Math.atan(slope) * 180) / Math.PI)}° turn shading normals away from the light`,
            why: `Between black and white lie ${depth} m, and a texel is ${+(1000 * metres).toPrecision(2)} mm wide. As real geometry they would be spikes.`,
          },
          proposals: [{ id: 'bump-depth', title: `Bump depth of ${names} to ${proposed} m`, change: { kind: 'values', values: Object.fromEntries(materials.map((id) => [`/materials/${id}/bumpDepth`, Math.sign(document.materials[id].bumpDepth) * proposed])) }, numbers: { depth: proposed } }],
          measured: { slope },
        },
      ];
    }),
}; // prettier-ignore

/** Root mean square of the steps from texel to texel, both ways. */
function steps({ width, height, texels }: Texture): number {
  const at = (x: number, y: number) => {
    const i = 3 * ((y % height) * width + (x % width));
    return luminance(texels[i], texels[i + 1], texels[i + 2]);
  };
  let sum = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) sum += (at(x + 1, y) - at(x, y)) ** 2 + (at(x, y + 1) - at(x, y)) ** 2;
  return Math.sqrt(sum / (width * height));
}
