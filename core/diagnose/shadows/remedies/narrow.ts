/** A sun as wide as the sun is, or a little softened. */
import type { Propose } from '../../family.ts';
import type { ShadowCase } from '../case.ts';

/** Degrees: the sun's mean diameter (about 32 minutes of arc), and what is softened and still has edges. */
const SUN = 0.53;
const SOFT = 5;

export const narrow: Propose<ShadowCase> = (of) =>
  of.kind !== 'wide'
    ? null
    : [
        { id: 'sun', angle: SUN, as: 'as wide as the sun' },
        { id: 'soft', angle: SOFT, as: 'softened' },
      ].map(({ id, angle, as }) => ({
        id,
        title: `${of.name} at ${angle}°, ${as}`,
        change: { kind: 'values', values: { [`/lights/${of.light}/angle`]: angle } },
        note: 'It emits as much light as before.',
      }));
