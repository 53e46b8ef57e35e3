/** The object's motion on, as its keys tell it. */
import type { Propose } from '../../family.ts';
import type { MotionCase } from '../case.ts';

export const turnOn: Propose<MotionCase> = (of) =>
  of.kind !== 'still'
    ? null
    : {
        id: 'turn-on',
        title: `Let ${of.name} move by its ${of.keys} keys`,
        change: { kind: 'values', values: { [`/objects/${of.id}/motion`]: of.deforms ? 'deforming' : 'transform' } },
        note: 'Motion blur brings its own noise: check it again once it moves.',
      };
