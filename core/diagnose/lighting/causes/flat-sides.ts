/** Light comes from everywhere alike. */
import type { Cause } from '../../family.ts';
import type { LightingCase } from '../definition.ts';

export const flatSides: Cause<LightingCase> = {
  id: 'lighting.flat-sides',
  isIndependent: true,
  share: ({ kind }) => (kind === 'flat' ? 1 : null),
};
