/** Images read in another colour space than what they are worn as: colours as data, or data as colours. */
import { proposeColourSpace } from '../../../textures/colour-space.ts';
import { listed } from '../../words.ts';
import type { TextureFault } from '../fault.ts';
import type { MapUse, Slot } from '../uses.ts';

const COLOURS: Slot[] = ['baseColourMap', 'emissionMap'];
/** What an image is called where it could be either. */
const SHOWN: Partial<Record<Slot, string>> = { roughnessMap: 'roughness', metallicMap: 'metal', normalMap: 'normals', bumpMap: 'bump', displacementMap: 'displacement', alphaMap: 'alpha' }; // prettier-ignore

function find(uses: MapUse[], wanted: 'srgb' | 'linear'): ReturnType<TextureFault['find']> {
  const isColour = ({ slot }: MapUse['worn'][number]) => COLOURS.includes(slot);
  const wrong = uses.filter(({ image, spec, worn }) => {
    // Floats are linear whatever is said of them; one that is worn as both needs a texture for each first.
    if (image.colourSpace === undefined || image.colourSpace === wanted) return false;
    const alone = worn.filter(({ slot }) => !(slot === 'alphaMap' && spec.channel === 'alpha'));
    if (alone.length === 0) return false;
    if (wanted === 'srgb') return alone.every(isColour) && proposeColourSpace(spec.texture, null).colourSpace === 'srgb';
    return alone.every((one) => !isColour(one));
  });
  const textures = [...new Set(wrong.map(({ spec }) => spec.texture))];
  return textures.map((texture) => {
    const own = wrong.filter(({ spec }) => spec.texture === texture);
    const slots = [...new Set(own.flatMap(({ worn }) => worn.map(({ slot }) => SHOWN[slot] ?? 'colour')))];
    return {
      about: texture,
      objects: [...new Set(own.flatMap(({ objects }) => objects))],
      pixels: own.flatMap(({ pixels }) => pixels),
      words:
        wanted === 'srgb'
          ? {
              sentence: `${texture} is too bright: sRGB colours are read as linear.`,
              headline: 'A colour image is read as data',
              why: '0.5 in the file is 0.21 in linear light; read as data it stays 0.5, 1.2 stops too bright (IEC 61966-2-1).',
            }
          : {
              sentence: `${texture} is distorted: data of ${listed(slots)} are read as sRGB.`,
              headline: 'Data are read as sRGB colours',
              why: 'A value of 0.5 in the file becomes 0.21 (IEC 61966-2-1): surfaces come out smoother, flatter, or with normals tilted further than painted.',
            },
      proposals: [{ id: 'colour-space', title: `Read ${texture} as ${wanted === 'srgb' ? 'colours' : 'data'}`, change: { kind: 'values', values: { [`/textures/${texture}/colourSpace`]: wanted } } }],
    };
  });
} // prettier-ignore

export const colourReadAsData: TextureFault = {
  cause: 'textures.colour-read-as-data',
  find: (uses, { document }) => find(uses.filter(({ spec }) => Object.hasOwn(document.textures, spec.texture)), 'srgb'), // prettier-ignore
};

export const dataReadAsColour: TextureFault = {
  cause: 'textures.data-read-as-colour',
  find: (uses, { document }) => find(uses.filter(({ spec }) => Object.hasOwn(document.textures, spec.texture)), 'linear'), // prettier-ignore
};
