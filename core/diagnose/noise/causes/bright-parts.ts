/** Bright parts show noise that the shadow boost blows out. */
import type { Cause } from '../../family.ts';
import type { NoiseCase } from '../case.ts';

export const brightParts: Cause<NoiseCase> = {
  id: 'noise.bright-parts',
  share: ({ kind }) => (kind === 'bright' ? 1 : null),
};
