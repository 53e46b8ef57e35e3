/** Surfaces get more light than the display shows. */
import type { Cause } from '../../family.ts';
import type { LightingCase } from '../definition.ts';

export const overexposed: Cause<LightingCase> = {
  id: 'lighting.overexposed',
  isUpstream: true,
  share: (of) => (of.kind === 'overexposed' ? of.light.share : null),
};
