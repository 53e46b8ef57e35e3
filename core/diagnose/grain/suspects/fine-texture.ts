/**
 * Images that are looked up texel by texel where texels are smaller than pixels: each sample meets another colour. Mips mix
 * them beforehand. Source: Williams, "Pyramidal Parametrics", 1983.
 */
import type { Suspicion } from './suspect.ts';

/** Names in a title; the rest is counted. */
const NAMED = 2;

export const fineTexture: Suspicion = ({ document }) => {
  const sharp = Object.entries(document.maps).filter(([, map]) => map.kind === 'image' && map.filter !== 'mip');
  if (sharp.length === 0) return null;
  const names = sharp.map(([id, map]) => ('name' in map && map.name) || id);
  const told = names.length > NAMED ? `${names.slice(0, NAMED).join(', ')} and ${names.length - NAMED} more` : names.join(' and '); // prettier-ignore
  return {
    id: 'mip-textures',
    told: 'texture finer than pixels',
    values: Object.fromEntries(sharp.map(([id]) => [`/maps/${id}/filter`, 'mip'])),
    remedy: {
      title: `Mix texels by mips in ${told}`,
      note: 'Where texels are larger than pixels nothing changes; where they are smaller, the pattern goes into its mean.',
    },
  };
};
