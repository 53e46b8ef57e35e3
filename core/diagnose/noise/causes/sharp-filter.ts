/**
 * Filters with negative lobes: samples that count against a pixel add noise and no light. Noise of a mean with weights w is
 * √Σw² / |Σw|. Source: Mitchell & Netravali, "Reconstruction Filters in Computer Graphics", 1988, for the lobes.
 */
import type { ControlValues } from '../../../document/set-values.ts';
import type { Cause } from '../../family.ts';
import type { NoiseCase } from '../case.ts';

const SHARP = ['mitchell', 'lanczos'];
/** Full width of the Gaussian in its place, pixels. */
export const SOFT_WIDTH = 2;
export const SOFT: ControlValues = { '/filter/kind': 'gaussian', '/filter/width': SOFT_WIDTH };

export const sharpFilter: Cause<NoiseCase> = {
  id: 'noise.sharp-filter',
  without: (of) => (of.kind === 'over' && SHARP.includes(of.input.sheet.filter.kind) ? SOFT : null),
};
