/** Small images of few flat colours, enlarged and filtered: pixel art and prints whose texels are meant to be seen. */
import type { Texture } from '../../../data/texture.ts';
import { capital, listed } from '../../words.ts';
import type { TextureFault } from '../fault.ts';

/** Texels along a side, colours, and parts of a texel that a pixel spans. */
const [SMALL, FEW, ENLARGED] = [256, 64, 0.4];
/** Of neighbouring texels: those that differ at all, and of these the ones that differ plainly. */
const [DRAWN, HARD] = [0.05, 0.8];
const PLAIN = 0.04;

export const meantSharp: TextureFault = {
  cause: 'textures.filtered-when-meant-sharp',
  find(uses) {
    const soft = uses.filter(({ spec, image, texels, worn }) => spec.filter !== 'nearest' && texels !== null && texels <= ENLARGED && worn.some(({ slot }) => slot === 'baseColourMap' || slot === 'emissionMap') && isDrawn(image));
    if (soft.length === 0) return [];
    const names = listed(soft.map(({ spec }) => spec.texture));
    const width = Math.max(...soft.map(({ texels }) => 1 / texels!));
    return [
      {
        about: 'sharp',
        objects: [...new Set(soft.flatMap(({ objects }) => objects))],
        pixels: soft.flatMap(({ pixels }) => pixels),
        words: {
          sentence: `${capital(names)} ${soft.length === 1 ? 'is' : 'are'} blurred: an image with hard-edged texels is enlarged ${Math.round(width)} times and filtered.`,
          headline: 'Texels that are meant to be seen are filtered',
          why: 'It has few colours and hard edges between texels: it was drawn pixel by pixel.',
        },
        proposals: [
          { id: 'nearest', title: soft.length === 1 ? `Show ${names} unfiltered` : `Show all ${soft.length} of them unfiltered`, change: { kind: 'values', values: Object.fromEntries(soft.map(({ map }) => [`/maps/${map}/filter`, 'nearest'])) } },
        ],
        measured: { enlarged: width },
      },
    ];
  },
}; // prettier-ignore

export function isDrawn({ width, height, texels }: Texture): boolean {
  if (width > SMALL || height > SMALL) return false;
  const colours = new Set<string>();
  let [pairs, differ, hard] = [0, 0, 0];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = 3 * (y * width + x);
      if (colours.size <= FEW) colours.add(`${texels[i].toFixed(4)} ${texels[i + 1].toFixed(4)} ${texels[i + 2].toFixed(4)}`); // prettier-ignore
      for (const j of [x + 1 < width ? i + 3 : -1, y + 1 < height ? i + 3 * width : -1]) {
        if (j < 0) continue;
        pairs += 1;
        const by = Math.max(...[0, 1, 2].map((c) => Math.abs(texels[i + c] - texels[j + c])));
        if (by === 0) continue;
        differ += 1;
        hard += Number(by >= PLAIN);
      }
    }
  return colours.size > 1 && colours.size <= FEW && differ >= DRAWN * pairs && hard >= HARD * differ;
}
