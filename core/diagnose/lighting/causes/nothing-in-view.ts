/** The camera meets no object. */
import type { Cause } from '../../family.ts';
import type { LightingCase } from '../definition.ts';

export const nothingInView: Cause<LightingCase> = {
  id: 'lighting.nothing-in-view',
  share: (of) => (of.kind === 'dark' && of.isEmpty ? 1 : null),
};
