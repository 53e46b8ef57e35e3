/** The shadow is there, and other light fills it until nobody sees it. */
import type { Cause } from '../../family.ts';
import type { ShadowCase } from '../case.ts';

export const drownedByFill: Cause<ShadowCase> = {
  id: 'shadows.drowned-by-fill',
  share: (of) => (of.kind === 'drowned' ? of.fill.share : null),
};
