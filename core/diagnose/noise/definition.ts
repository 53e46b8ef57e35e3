/**
 * Noise that shows with shadows boosted. Whose it is by pass, light, dial, object and tone; what reaches the sheet's target:
 * more samples for all, the cheapest mixture of kinds (Neyman 1934), samples by need; causes that more samples only hide; and
 * where there is more than anyone sees, what can be taken away. Of pictures by themselves: how much, in which pass, and how
 * many times the samples it would take.
 */
import type { DialNeed, Remedy } from '../../contracts/finding.ts';
import { changeOf } from '../../figures/effect.ts';
import { LIGHT_PASSES } from '../../render/film/passes.ts';
import { ofPictures, ofRenders, type Family } from '../family.ts';
import { barsOf } from './attribution.ts';
import { byCount } from './by-count.ts';
import { casesOf, type NoiseCase } from './case.ts';
import { causes } from './causes/registry.ts';
import { curveOf } from './curve.ts';
import { inPictures } from './in-pictures.ts';
import { STEP_PASSES } from '../texel-steps.ts';
import { rank } from './rank.ts';
import { remedies } from './remedies/registry.ts';
import { tell } from './telling.ts';

export const noise: Family = {
  id: 'noise',
  title: 'Noise',
  healthy: 'Noise is within the target, with and without the shadow boost.',
  render: ofRenders<NoiseCase>({
    needs: () => [
      'beauty',
      'samples',
      ...STEP_PASSES,
      ...LIGHT_PASSES,
      ...LIGHT_PASSES.map((pass) => `error.${pass}`),
      'clamped',
    ],
    cases: casesOf,
    causes,
    remedies,
    figure: 'noise',
    // Variances add up, so that what goes with a cause is a share of the variance.
    goesWith: (effect) => 1 - (changeOf(effect, 'noise') ?? 1) ** 2,
    rank,
    tell,
    dials: (_, ranked) => dialsOf(ranked),
    evidence: (of) =>
      of.kind !== 'over'
        ? []
        : [
            { kind: 'shares', title: 'Where the noise comes from', bars: barsOf(of.plans) },
            ...byCount(of.plans),
            curveOf(of.plans, of.plans.plain(of.plans.scale), of.plans.model),
          ], // prettier-ignore
  }),
  picture: ofPictures(inPictures),
};

/** Numbers that the first remedy sets. */
function dialsOf([first]: Remedy[]): DialNeed[] {
  if (first?.change?.kind !== 'values') return [];
  return Object.entries(first.change.values).flatMap(([pointer, needs]) => (typeof needs === 'number' ? [{ pointer, needs, note: null }] : [])); // prettier-ignore
}
