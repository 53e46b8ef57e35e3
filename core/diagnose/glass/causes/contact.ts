/** A liquid and its vessel share a face, or leave air between them. */
import type { Cause } from '../../family.ts';
import type { GlassCase } from '../definition.ts';

export const coincidentFaces: Cause<GlassCase> = {
  id: 'glass.coincident-faces',
  isUpstream: true,
  share: (of) => (of.kind === 'contact' && of.how === 'coincident' ? 1 : null),
};

export const gapToLiquid: Cause<GlassCase> = {
  id: 'glass.gap-to-liquid',
  isUpstream: true,
  share: (of) => (of.kind === 'contact' && of.how === 'gap' ? 1 : null),
};
