/**
 * Images that are too small for how near they are seen, or far larger than any sheet can show.
 *
 * Source of texels against pixels: Heckbert, "Fundamentals of Texture Mapping and Image Warping", 1989.
 */
import type { Texture } from '../../../data/texture.ts';
import { tellAmount } from '../../../figures/effect.ts';
import { shrunk } from '../../../textures/shrink.ts';
import type { RenderInput } from '../../family.ts';
import { imageDetail } from '../image-detail.ts';
import type { TextureFault, Told } from '../fault.ts';
import type { MapUse } from '../uses.ts';
import { isDrawn } from './meant-sharp.ts';

/** Texels that a pixel spans: fewer are seen one by one; more than so many in the largest sheet are never seen. */
const [BLURRED, UNSEEN] = [0.25, 4];
/** Of neighbouring texels, as a part of the image’s contrast, before there is detail that could be blurred. */
const DETAIL = 0.05;
/** Texels of an image whose size is no matter. */
const MATTERS = 2 ** 20;
const MOST = 16_384;

const sideFor = (image: Texture, texels: number): [number, number] =>
  [image.width, image.height].map((side) => Math.min(MOST, 2 ** Math.round(Math.log2(side / texels)))) as [
    number,
    number,
  ];
/** As it is held while it renders: three floats a texel, and a third more in halved copies. */
const bytesOf = (width: number, height: number): number => width * height * 12 * (4 / 3);

function told({ spec, image, objects, pixels, texels }: MapUse, ratio: number, isSmall: boolean, { document, assets }: RenderInput): Told {
  const times = Math.floor(Math.log2(ratio));
  const [width, height] = isSmall ? sideFor(image, ratio) : [image.width, image.height].map((side) => Math.ceil(side / 2 ** times));
  const isOwn = Object.hasOwn(document.textures, spec.texture) && !image.tiles;
  const sizes = `${image.width} × ${image.height}`;
  return {
    about: spec.texture,
    severity: isSmall ? 'caution' : 'note',
    objects,
    pixels,
    words: isSmall
      ? {
          sentence: `${spec.texture} is too small for how close it is seen: a texel is ${Math.round(1 / texels!)} pixels wide.`,
          headline: `${sizes} texels are stretched until each one is visible`,
          why: `At ${width} × ${height} a texel would be a pixel here.`,
        }
      : {
          sentence: `${spec.texture} is larger than any sheet shows: ${ratio.toFixed(0)} texels per pixel.`,
          headline: `${sizes} texels take ${tellAmount('bytes', bytesOf(image.width, image.height))}; ${width} × ${height} would do`,
          why: `That is ${tellAmount('bytes', bytesOf(width, height))}, and as many texels as the largest sheet has pixels.`,
        },
    proposals: [
      isSmall
        ? { id: 'bake-larger', title: `Bake or paint ${spec.texture} at ${width} × ${height}: ${tellAmount('bytes', bytesOf(width, height))} while it renders`, change: null, numbers: { width, height } }
        : {
            id: 'bake-smaller',
            title: `${isOwn ? 'Show' : 'Export'} ${spec.texture} at ${width} × ${height}`,
            change: isOwn ? { kind: 'files', patch: [], work: { kind: 'shrink textures', textures: { [spec.texture]: times } } } : null,
            ...(isOwn && { files: { ...assets, textures: new Map(assets.textures).set(spec.texture, shrunk(image, times)) }, note: 'In a new file next to the old one; each texel is the mean of those it replaces.' }),
            numbers: { width, height },
          },
    ],
    measured: { texels: ratio },
  };
} // prettier-ignore

export const tooSmall: TextureFault = {
  cause: 'textures.too-small',
  find: (uses, input) => uses.filter(({ texels, image, spec }) => texels !== null && texels <= BLURRED && !isDrawn(image) && spec.filter !== 'nearest' && imageDetail(image) >= DETAIL).map((use) => told(use, use.texels!, true, input)), // prettier-ignore
};

export const tooLarge: TextureFault = {
  cause: 'textures.too-large',
  find(uses, input) {
    const { document, sheet } = input;
    const larger = Math.max(1, ...Object.values(document.sheets).map(({ width }) => width / sheet.width));
    // Worn by several maps it is as large as the nearest needs it.
    const least = new Map<string, number>();
    for (const { spec, texels } of uses) least.set(spec.texture, Math.min(least.get(spec.texture) ?? Infinity, texels ?? 0)); // prettier-ignore
    return uses.flatMap((use) => {
      const ratio = (use.texels ?? 0) / larger;
      const isOne = use.texels === least.get(use.spec.texture);
      return isOne && ratio >= UNSEEN && use.image.width * use.image.height >= MATTERS
        ? [told(use, ratio, false, input)]
        : [];
    });
  },
};
