/** The order remedies of noise are to be tried in. */
import type { Remedy } from '../../contracts/finding.ts';
import { frameChangeOf, sidesOf } from '../../figures/effect.ts';
import type { Explained } from '../family.ts';
import type { NoiseCase } from './case.ts';

/** What takes a cause away, by the cause that must be guilty of some of it. */
const CURES: Record<string, string> = {
  'mip-textures': 'noise.fine-texture',
  'soft-filter': 'noise.sharp-filter',
  'occlusion-samples': 'noise.occlusion-samples',
};
const PLANS = ['by-need', 'target-mixture', 'target'];

/**
 * Where taking a cause away reaches the target alone, no plan is cheaper. Then plans that reach it, by the rays of the frame,
 * those that fall short or go further, and what takes away a part.
 */
export function rank(of: NoiseCase, remedies: Remedy[], causes: Explained): Remedy[] {
  if (of.kind !== 'over') return remedies;
  const guilty = remedies.filter(({ id }) => causes.some((cause) => cause.id === CURES[id]));
  const share = ({ id }: Remedy) => causes.find((cause) => cause.id === CURES[id])!.share;
  const reaches = ({ predicted }: Remedy) =>
    predicted !== null && (sidesOf(predicted, 'noise').after ?? Infinity) <= of.target;
  const rays = ({ predicted }: Remedy) => (predicted && frameChangeOf(predicted, 'rays')) ?? Infinity;
  const plans = PLANS.flatMap((id) => remedies.find((one) => one.id === id) ?? []).sort((a, b) => rays(a) - rays(b));
  const others = remedies.filter(({ id }) => !PLANS.includes(id) && !Object.hasOwn(CURES, id));
  return [
    ...guilty.filter(reaches).sort((a, b) => share(b) - share(a)),
    ...plans,
    ...others,
    ...guilty.filter((one) => !reaches(one)).sort((a, b) => share(b) - share(a)),
  ]; // prettier-ignore
}
