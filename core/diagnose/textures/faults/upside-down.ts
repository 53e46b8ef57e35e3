/**
 * An image that is upside down on its surface: what is drawn on it lies where the other images of the same material have it
 * only after V is turned over. Files bring this that count V from the other end.
 *
 * Compared are slopes, not values: a groove is dark in a colour, an edge in a bump, a step in a roughness.
 */
import { luminance } from '../../../data/colour.ts';
import type { Texture } from '../../../data/texture.ts';
import { compileMap } from '../../../textures/compiled-map.ts';
import { MapSampler } from '../../../textures/map-sampler.ts';
import { listed } from '../../words.ts';
import { correlation } from '../correlation.ts';
import type { TextureFault } from '../fault.ts';
import type { ImageSpec, MapUse } from '../uses.ts';

/** Places a side at which slopes are compared. */
const CELLS = 48;
/** Correlations with the others of its material: as it stands at most, turned over at least. */
const [APART, LIKE] = [0.3, 0.6];

export const upsideDown: TextureFault = {
  cause: 'textures.upside-down',
  find(uses, { document, scene }) {
    const known = new Map<string, Float64Array>();
    const slopesOf = ({ map, image }: MapUse, spec: ImageSpec, way: string): Float64Array => {
      const chain = scene.chains[scene.textureIds.indexOf(spec.texture)];
      const own = known.get(`${map} ${way}`) ?? slopes(spec, image, chain);
      known.set(`${map} ${way}`, own);
      return own;
    };
    return uses.flatMap((use) => {
      if (use.image.tiles || use.spec.rotation !== 0) return [];
      const others = siblings(use, uses);
      if (others.length === 0) return [];
      const flipped = { ...use.spec, ...turnedOver(use.spec) };
      const [own, turned] = [slopesOf(use, use.spec, 'as it is'), slopesOf(use, flipped, 'turned')];
      const isOdd = others.every((other) => {
        const its = slopesOf(other, other.spec, 'as it is');
        return correlation(own, its) <= APART && correlation(turned, its) >= LIKE;
      });
      // Of two that differ, the colour is what is looked at.
      if (!isOdd || (others.length === 1 && colours(use) && !colours(others[0]))) return [];
      const materials = listed([...new Set(use.worn.map(({ material }) => document.materials[material].name || material))]);
      return [
        {
          about: use.map,
          objects: use.objects,
          pixels: use.pixels,
          words: {
            sentence: `${use.spec.texture} is upside down on ${use.objects[0]}.`,
            headline: `Flipped, it matches ${listed(others.map(({ spec }) => spec.texture))}`,
            why: `The images of one material show the same features at the same UVs; this one of ${materials} does so only with V flipped.`,
          },
          proposals: [{ id: 'turn-over', title: `Turn map ${use.map} over`, change: { kind: 'values', values: Object.fromEntries(Object.entries(turnedOver(use.spec)).map(([key, value]) => [`/maps/${use.map}/${key}`, value])) } }],
        },
      ];
    });
  },
}; // prettier-ignore

const colours = ({ worn }: MapUse): boolean => worn.some(({ slot }) => slot === 'baseColourMap');

/** Other image maps on every material that wears a map, by the same UVs. */
const siblings = (use: MapUse, uses: MapUse[]): MapUse[] =>
  uses.filter((other) => other.map !== use.map && other.spec.texture !== use.spec.texture && other.spec.uvSet === use.spec.uvSet && use.worn.every(({ material }) => other.worn.some((one) => one.material === material))); // prettier-ignore

/** v → 1 − v before all else: scale, then offset, of what is not rotated. */
const turnedOver = ({ scale, offset }: ImageSpec) => ({ scale: [scale[0], -scale[1]], offset: [offset[0], offset[1] + scale[1]] }) as Pick<ImageSpec, 'scale' | 'offset'>; // prettier-ignore

/**
 * How much a map changes at each place of UV space from 0 to 1.
 * @param chain the image and its halved copies, as the scene has them
 */
function slopes(spec: ImageSpec, image: Texture, chain: Texture[]): Float64Array {
  const sampler = new MapSampler([compileMap({ ...spec, filter: 'mip' }, [spec.texture], image)], [chain]);
  sampler.footprint = 1 / CELLS;
  const values = new Float64Array((CELLS + 1) ** 2);
  for (let j = 0; j <= CELLS; j++)
    for (let i = 0; i <= CELLS; i++) {
      sampler.uv[0] = sampler.uv[2] = (i + 0.5) / (CELLS + 1);
      sampler.uv[1] = sampler.uv[3] = (j + 0.5) / (CELLS + 1);
      sampler.lookUp(0);
      values[j * (CELLS + 1) + i] = luminance(sampler.out[0], sampler.out[1], sampler.out[2]);
    }
  const out = new Float64Array(CELLS * CELLS);
  for (let j = 0; j < CELLS; j++)
    for (let i = 0; i < CELLS; i++) {
      const at = j * (CELLS + 1) + i;
      out[j * CELLS + i] = Math.hypot(values[at + 1] - values[at], values[at + CELLS + 1] - values[at]);
    }
  return out;
}
