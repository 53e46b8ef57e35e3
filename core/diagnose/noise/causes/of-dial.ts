import type { CauseId } from '../../catalogue.ts';
import type { Cause } from '../../family.ts';
import { PLANNED_KINDS, type SampleModel } from '../../../predict/sample-plan.ts';
import type { NoiseCase } from '../case.ts';

/**
 * Noise that more of one kind of samples would lower: its share of the variance, told by a pilot. Where raising that kind costs
 * as much as samples per pixel, it is those that are too few.
 */
export const ofDial = (id: CauseId, part: keyof SampleModel['parts']): Cause<NoiseCase> => ({
  id,
  share(of) {
    if (of.kind !== 'over') return null;
    const { parts } = of.plans.model;
    const all = Object.values(parts).reduce((sum, each) => sum + each, 0);
    if (!(all > 0)) return part === 'camera' ? 1 : null;
    const worth = PLANNED_KINDS.filter((kind) => of.plans.isWorthRaising(kind));
    if (part !== 'camera') return worth.includes(part) ? parts[part] / all : null;
    return 1 - worth.reduce((sum, kind) => sum + parts[kind], 0) / all;
  },
});
