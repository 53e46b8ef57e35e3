/**
 * The colour space that an image is proposed to be read in, and why.
 *
 * @example
 * proposeColourSpace('crate_rough.png', header);   // { colourSpace: 'linear', why: '“rough” in its name says that it is data' }
 */
import type { ImageHeader } from '../formats/image-header.ts';

export interface ProposedSpace {
  colourSpace: 'srgb' | 'linear';
  why: string;
}

const FLOATING = ['OpenEXR', 'Radiance HDR', 'PFM'];
/** Words of the trade for maps whose values are no colours. */
const DATA = /(?:^|[^a-z])(rough(?:ness)?|gloss(?:iness)?|metal(?:lic|ness)?|normals?|nrm|bump|disp(?:lacement)?|height|spec(?:ular)?|ao|occlusion|mask|alpha|opacity)(?:[^a-z]|$)/i; // prettier-ignore

/** @param name of the file; its words tell colours from data. @param header null: the bytes begin as no image that is known */
export function proposeColourSpace(name: string, header: Pick<ImageHeader, 'kind' | 'bits'> | null): ProposedSpace {
  if (header && (FLOATING.includes(header.kind) || header.bits > 16))
    return { colourSpace: 'linear', why: `${header.kind} holds linear values` };
  const word = DATA.exec(name.replace(/\.[^.]*$/, '').replace(/([a-z])([A-Z])/g, '$1_$2'))?.[1];
  if (word) return { colourSpace: 'linear', why: `“${word}” in its name says that it is data` };
  return { colourSpace: 'srgb', why: `${header?.kind ?? 'images'} of ${header?.bits || 8} bits are display colours unless they are data` }; // prettier-ignore
}
