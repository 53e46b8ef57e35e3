/** The colour of glass is what each face lets through. Black lets nothing through, whatever the limits and the samples. */
import type { Cause } from '../../family.ts';
import type { BlackGlassCase } from '../black-glass.ts';

export const blackFilter: Cause<BlackGlassCase> = { id: 'glass.black-filter', isUpstream: true, share: () => 1 };
