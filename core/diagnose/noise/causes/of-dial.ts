import type { CauseId } from '../../catalogue.ts';
import type { Cause } from '../../family.ts';
import type { SampleModel } from '../../../predict/sample-plan.ts';
import type { NoiseCase } from '../case.ts';

/** Noise that more of one kind of samples would lower: its share of the variance, told by a pilot (Cochran 1977, chapter 10). */
export const ofDial = (id: CauseId, part: keyof SampleModel['parts']): Cause<NoiseCase> => ({
  id,
  share(of) {
    if (of.kind !== 'over') return null;
    const { parts } = of.plans.model;
    const all = Object.values(parts).reduce((sum, each) => sum + Math.max(0, each), 0);
    return all > 0 ? Math.max(0, parts[part]) / all : part === 'camera' ? 1 : null;
  },
});
