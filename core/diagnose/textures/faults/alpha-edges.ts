/**
 * Edges of cut-outs that are dark or light: colours under transparent texels that a filter mixes in, or colours that were
 * multiplied by their alpha already.
 *
 * Source: Porter & Duff, "Compositing Digital Images", 1984: a colour multiplied by its alpha is not multiplied again.
 */
import { luminance } from '../../../data/colour.ts';
import type { Texture } from '../../../data/texture.ts';
import type { CauseId } from '../../catalogue.ts';
import type { Proposal, RenderInput } from '../../family.ts';
import { percentile } from '../../../picture/measured.ts';
import type { AlphaMend } from '../../../contracts/intake.ts';
import { mendAlpha } from '../../../textures/mend-alpha.ts';
import type { TextureFault, Told } from '../fault.ts';
import type { MapUse } from '../uses.ts';

/** Alphas of what is not there, is partly there, and is. */
const [NONE, PART, SOLID] = [0.02, [0.1, 0.9], 0.98];
/** Shares of texels: partly there ones that tell anything. */
const ENOUGH = 0.002;
/** A colour over that of what is solid beside it, over what multiplying makes of it. */
const LIKE = 0.2;
/** Times darker or lighter under what is not there. */
const OFF = 2;

export const alphaFringe: TextureFault = {
  cause: 'textures.alpha-fringe',
  find: (uses, input) => cutOuts(uses, input).flatMap((use) => (edgesOf(use.image) === 'fringe' && use.spec.filter !== 'nearest' ? [told(use, input, 'textures.alpha-fringe')] : [])), // prettier-ignore
};

export const premultipliedTwice: TextureFault = {
  cause: 'textures.premultiplied-twice',
  find: (uses, input) => cutOuts(uses, input).flatMap((use) => (edgesOf(use.image) === 'premultiplied' ? [told(use, input, 'textures.premultiplied-twice')] : [])), // prettier-ignore
};

/** Colours of materials whose alpha comes from the same image. */
const cutOuts = (uses: MapUse[], { document }: RenderInput): MapUse[] =>
  uses.filter(({ image, worn }) => image.alpha !== null && worn.some(({ material, slot }) => slot === 'baseColourMap' && document.materials[material].alphaMode !== 'opaque')); // prettier-ignore

/** What the colours at the edges of an image are. */
export function edgesOf({ width, height, texels, alpha }: Texture): 'premultiplied' | 'fringe' | 'clean' {
  if (!alpha) return 'clean';
  const multiplied: number[] = [];
  const under: number[] = [];
  for (let y = 1; y + 1 < height; y++)
    for (let x = 1; x + 1 < width; x++) {
      const i = y * width + x;
      if (alpha[i] >= SOLID) continue;
      const solid = solidBeside(texels, alpha, width, height, x, y);
      if (!(solid > 0)) continue;
      const own = luminance(texels[3 * i], texels[3 * i + 1], texels[3 * i + 2]);
      if (alpha[i] <= NONE) under.push(own / solid);
      else if (alpha[i] >= PART[0] && alpha[i] <= PART[1]) multiplied.push(own / (alpha[i] * solid));
    }
  const enough = ENOUGH * width * height;
  if (multiplied.length >= enough && Math.abs(percentile(multiplied, 0.5) - 1) <= LIKE && percentile(multiplied, 0.75) <= 1 + 2 * LIKE) return 'premultiplied';
  if (under.length < enough) return 'clean';
  const usual = percentile(under, 0.5);
  return usual <= 1 / OFF || usual >= OFF ? 'fringe' : 'clean';
} // prettier-ignore

/** Texels that an edge may be wide. */
const EDGE = 4;

/** Mean luminance of the solid texels near a place; 0: none. */
function solidBeside(texels: Float32Array, alpha: Float32Array, width: number, height: number, x: number, y: number): number {
  let [sum, count] = [0, 0];
  for (let ny = Math.max(0, y - EDGE); ny <= Math.min(height - 1, y + EDGE); ny++)
    for (let nx = Math.max(0, x - EDGE); nx <= Math.min(width - 1, x + EDGE); nx++) {
      const j = ny * width + nx;
      if (alpha[j] < SOLID) continue;
      sum += luminance(texels[3 * j], texels[3 * j + 1], texels[3 * j + 2]);
      count += 1;
    }
  return count ? sum / count : 0;
} // prettier-ignore

function told({ spec, image, objects, pixels, worn }: MapUse, { document, assets }: RenderInput, cause: CauseId): Told {
  const id = spec.texture;
  const isTwice = cause === 'textures.premultiplied-twice';
  const how: AlphaMend = isTwice ? 'divide' : 'bleed';
  const textures = new Map(assets.textures).set(id, mendAlpha(how, image));
  const blended = [...new Set(worn.map(({ material }) => material))].filter((one) => document.materials[one].alphaMode === 'blend'); // prettier-ignore
  const proposals: Proposal[] = [
    ...(Object.hasOwn(document.textures, id)
      ? [{ id: how, title: isTwice ? `Divide the colours of ${id} by their alpha` : `Carry the colours of ${id} under its transparent texels`, change: { kind: 'files' as const, patch: [], work: { kind: 'mend alpha' as const, how, textures: [id] } }, files: { ...assets, textures }, note: 'In a new file next to the old one.' }]
      : []),
    ...(blended.length && !isTwice
      ? [{ id: 'mask', title: 'Cut out at half its alpha instead of blending', change: { kind: 'values' as const, values: Object.fromEntries(blended.flatMap((one) => [[`/materials/${one}/alphaMode`, 'mask'], [`/materials/${one}/alphaCutoff`, 0.5]])) }, note: 'Edges become hard, and lose whatever is less than half opaque.' }]
      : []),
  ];
  return {
    about: id,
    objects,
    pixels,
    words: isTwice
      ? {
          sentence: `Edges of ${id} are too dark: its colours are premultiplied, and get multiplied again.`,
          headline: 'The image is premultiplied, and read as straight alpha',
          why: 'Where it is partly opaque, its colours are those next to it times alpha, texel by texel.',
        }
      : {
          sentence: `Edges of ${id} have a fringe: its transparent texels have a different colour.`,
          headline: 'Filtering mixes in the colour of transparent texels',
          why: 'Colours of transparent texels are at least twice as dark or light as those next to them; between texels both are mixed.',
        },
    proposals,
  };
} // prettier-ignore
