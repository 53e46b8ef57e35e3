/** Smooth normals on faces that are too coarse for them. */
import type { Cause } from '../../family.ts';
import type { ShadowCase } from '../case.ts';

export const jagged: Cause<ShadowCase> = {
  id: 'shadows.jagged',
  isIndependent: true,
  share: ({ kind }) => (kind === 'jagged' ? 1 : null),
};
