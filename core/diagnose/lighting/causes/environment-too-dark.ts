/** The environment is the only light, and dark. */
import type { Cause } from '../../family.ts';
import type { LightingCase } from '../definition.ts';

export const environmentTooDark: Cause<LightingCase> = {
  id: 'lighting.environment-too-dark',
  isUpstream: true,
  share: ({ kind }) => (kind === 'dim' ? 1 : null),
};
