import type { Cause } from '../../family.ts';
import type { ShadowCase } from '../case.ts';
import { SHADOW_SETTINGS } from '../settings/registry.ts';

/** A setting that keeps the shadow away: all of it, or its part where two do so together. */
export const bySetting: Cause<ShadowCase>[] = SHADOW_SETTINGS.map(({ id, cause }) => ({
  id: cause,
  // Other light is measured with the shadow as it is: first that, then what fills it.
  isUpstream: true,
  share: (of) => (of.kind === 'missing' && of.switches.includes(id) ? 1 / of.switches.length : null),
}));
