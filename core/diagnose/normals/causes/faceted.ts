/** Each facet of a curved surface mirrors by itself. Neighbouring pixels have one normal, and then another one. */
import type { Cause } from '../../family.ts';
import type { FacetCase } from '../case.ts';

export const faceted: Cause<FacetCase> = { id: 'normals.faceted', share: () => 1 };
