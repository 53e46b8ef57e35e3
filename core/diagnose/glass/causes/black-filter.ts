/** The colour of glass is what each face lets through. Black lets nothing through, whatever the limits and the samples. */
import type { Cause } from '../../family.ts';
import type { GlassCase } from '../definition.ts';

export const blackFilter: Cause<GlassCase> = {
  id: 'glass.black-filter',
  isUpstream: true,
  share: ({ kind }) => (kind === 'black' ? 1 : null),
};
