/** The camera sees the environment that lights the scene: neither can be set without the other. */
import type { Cause } from '../../family.ts';
import type { LightingCase } from '../definition.ts';

export const backgroundTied: Cause<LightingCase> = {
  id: 'lighting.background-tied',
  share: ({ kind }) => (kind === 'tied' ? 1 : null),
};
