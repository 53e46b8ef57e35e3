/**
 * Colours without alpha, where the same image with alpha lies beside them: told by name and by what is on it, and given to every
 * material that shows the one without.
 */
import { luminance } from '../../../data/colour.ts';
import type { Texture } from '../../../data/texture.ts';
import type { ShotDocument } from '../../../document/schema.ts';
import { stemOf } from '../../../formats/siblings.ts';
import { capital, listed } from '../../words.ts';
import { correlation } from '../correlation.ts';
import type { TextureFault } from '../fault.ts';
import type { MapUse } from '../uses.ts';

/** Cells a side by which two images are compared, and how alike (Pearson’s correlation) they have to be. */
const [CELLS, ALIKE] = [24, 0.9];
/** Share of texels that are not there, at least, for the alpha to be of any use. */
const CUT = 0.02;
/** Share of texels that are partly there up to which an image is cut out, and not blended. */
const SOFT = 0.1;

export const alphaLost: TextureFault = {
  cause: 'textures.alpha-lost',
  find(uses, { document, assets }) {
    const byTexture = new Map<string, MapUse[]>();
    for (const use of uses) if (isOpaqueColour(use, document)) byTexture.set(use.spec.texture, [...(byTexture.get(use.spec.texture) ?? []), use]);
    return [...byTexture].flatMap(([id, own]) => {
      const sibling = siblingOf(id, own[0].image, document, assets.textures);
      if (!sibling) return [];
      const materials = [...new Set(own.flatMap(({ worn }) => worn.map(({ material }) => material)))];
      const values = Object.fromEntries([
        ...own.flatMap(({ map }) => [[`/maps/${map}/texture`, sibling.id], [`/maps/${map}/channel`, 'alpha']]),
        ...own.flatMap(({ map, worn }) => worn.flatMap(({ material }) => [[`/materials/${material}/alphaMap`, map], [`/materials/${material}/alphaMode`, sibling.isSoft ? 'blend' : 'mask'], [`/materials/${material}/alphaCutoff`, 0.5]])),
      ]);
      const names = listed(materials.map((one) => document.materials[one].name || one));
      return [
        {
          about: id,
          objects: own.flatMap(({ objects }) => objects),
          pixels: own.flatMap(({ pixels }) => pixels),
          words: {
            sentence: `${capital(own[0].objects[0])} is solid where it should be cut out: ${id} has lost its alpha.`,
            headline: `${sibling.id} is the same image with alpha`,
            why: `${document.textures[id].file} has none; ${document.textures[sibling.id].file} shows the same, and is not there on ${Math.round(100 * sibling.cut)} % of it.`,
          },
          proposals: [{ id: 'sibling', title: `Show ${sibling.id}, cut out by its alpha, on ${names}`, change: { kind: 'values', values } }],
          measured: { cut: sibling.cut },
        },
      ];
    });
  },
}; // prettier-ignore

/** One that colours only, on materials that nothing cuts out. */
const isOpaqueColour = ({ image, worn, spec }: MapUse, { materials, textures }: ShotDocument): boolean =>
  image.alpha === null && Object.hasOwn(textures, spec.texture) && worn.every(({ material, slot }) => slot === 'baseColourMap' && materials[material].alphaMap === null); // prettier-ignore

function siblingOf(id: string, image: Texture, document: ShotDocument, textures: ReadonlyMap<string, Texture>) {
  const stem = stemOf(nameOf(document.textures[id].file));
  for (const [other, { file }] of Object.entries(document.textures)) {
    const its = textures.get(other);
    if (other === id || !its?.alpha || stemOf(nameOf(file)) !== stem) continue;
    const cut = shareOf(its.alpha, (a) => a < 0.02);
    if (cut < CUT || !isLike(image, its)) continue;
    return { id: other, cut, isSoft: shareOf(its.alpha, (a) => a > 0.1 && a < 0.9) > SOFT };
  }
  return null;
}

const nameOf = (file: string): string => file.slice(file.lastIndexOf('/') + 1);

const shareOf = (alpha: Float32Array, is: (a: number) => boolean): number => alpha.reduce((sum, a) => sum + Number(is(a)), 0) / alpha.length; // prettier-ignore

/** Whether both show the same where the one with alpha is there. */
export function isLike(plain: Texture, cut: Texture): boolean {
  const [a, b]: number[][] = [[], []];
  for (let j = 0; j < CELLS; j++)
    for (let i = 0; i < CELLS; i++) {
      const [p, q] = [texelAt(plain, i, j), texelAt(cut, i, j)];
      if (cut.alpha![q] < 0.9) continue;
      a.push(grey(plain, p));
      b.push(grey(cut, q));
    }
  // Of one colour all over there is nothing to correlate: it is the same colour, or is not.
  const [one, other] = [a, b].map(evenColour);
  if (one !== null || other !== null) return one !== null && other !== null && Math.abs(one - other) < SAME;
  return correlation(a, b) >= ALIKE;
}

/** Luminance by which two images of one colour may differ, and by which one varies that is of one colour. */
const [SAME, EVEN] = [0.05, 0.01];

/** The mean of values that hardly vary (by standard deviation); null: they vary, or there are none. */
function evenColour(values: number[]): number | null {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  const varies = values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length;
  return varies < EVEN ** 2 ? mean : null;
}

const texelAt = ({ width, height }: Texture, i: number, j: number): number =>
  Math.floor(((j + 0.5) / CELLS) * height) * width + Math.floor(((i + 0.5) / CELLS) * width);
const grey = ({ texels }: Texture, i: number): number => luminance(texels[3 * i], texels[3 * i + 1], texels[3 * i + 2]); // prettier-ignore
