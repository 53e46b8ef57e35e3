/** Smooth normals on faces that are too coarse for them: where light ends on them, or in the outline of their shadow. */
import type { Cause } from '../../family.ts';
import type { ShadowCase } from '../case.ts';

export const jagged: Cause<ShadowCase> = {
  id: 'shadows.jagged',
  isIndependent: true,
  share: ({ kind }) => (kind === 'jagged' || kind === 'outline' ? 1 : null),
};
