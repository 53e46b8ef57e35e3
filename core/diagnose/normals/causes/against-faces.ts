/** Normals that look away from their faces; or the faces do, of a closed body. */
import type { Cause } from '../../family.ts';
import type { NormalsCase } from '../case.ts';

export const againstFaces: Cause<NormalsCase> = {
  id: 'normals.against-faces',
  isUpstream: true,
  share: (of) => (of.kind === 'against' && !of.isInsideOut ? 1 : null),
};
