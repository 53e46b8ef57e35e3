/** The scale back in the transform, over the mesh of the sibling: it stands where it stood, and its maps are placed alike. */
import type { Propose } from '../../family.ts';
import type { MotionCase } from '../case.ts';

export const scaleBack: Propose<MotionCase> = (of) =>
  of.kind !== 'baked'
    ? null
    : {
        id: 'scale-back',
        title: `Give ${of.name} the mesh of ${of.sibling}, scaled by ${+of.baked.toPrecision(3)}`,
        change: { kind: 'values', values: of.values },
        note: 'It stays in place to a thousandth of its size, and there is one mesh less in memory.',
      };
