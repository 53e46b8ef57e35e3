/**
 * Filters with negative lobes: samples that count against a pixel add noise and no light. Noise of a mean with weights w is
 * √Σw² / |Σw|. Source: Mitchell & Netravali, "Reconstruction Filters in Computer Graphics", 1988, for the lobes.
 */
import type { Suspicion } from './suspect.ts';

const SHARP = ['mitchell', 'lanczos'];
/** Full width of the Gaussian in its place, pixels. */
const WIDTH = 2;

export const sharpFilter: Suspicion = ({ sheet }) => {
  const { kind } = sheet.filter;
  if (!SHARP.includes(kind)) return null;
  return {
    id: 'soft-filter',
    told: `a sharp pixel filter (${kind})`,
    values: { '/filter/kind': 'gaussian', '/filter/width': WIDTH },
    remedy: {
      title: `Filter by a Gaussian of ${WIDTH} pixels`,
      note: 'Edges are softer by about half a pixel, and bright ones no longer have a dark rim.',
    },
  };
};
