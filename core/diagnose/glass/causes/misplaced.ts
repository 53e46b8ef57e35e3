/** A tint on the opacity; a floor that is only shadow behind glass. */
import type { Cause } from '../../family.ts';
import type { GlassCase } from '../definition.ts';

export const tintOnOpacity: Cause<GlassCase> = {
  id: 'glass.tint-on-opacity',
  isUpstream: true,
  share: ({ kind }) => (kind === 'opacity' ? 1 : null),
};

export const shadowOnlyFloor: Cause<GlassCase> = {
  id: 'glass.shadow-only-floor',
  isUpstream: true,
  share: ({ kind }) => (kind === 'floor' ? 1 : null),
};
