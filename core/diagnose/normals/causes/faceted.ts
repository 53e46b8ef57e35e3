/** Each facet of a curved surface mirrors by itself. Neighbouring pixels have one normal, and then another one. */
import type { Cause } from '../../family.ts';
import type { NormalsCase } from '../case.ts';

export const faceted: Cause<NormalsCase> = {
  id: 'normals.faceted',
  share: ({ kind }) => (kind === 'facets' ? 1 : null),
};
