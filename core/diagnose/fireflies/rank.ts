/**
 * Remedies in the order they are to be tried: what leaves fewest fireflies, keeps the look, and costs least at equal
 * noise. All fireflies left weigh as much as four stops of change, which nobody would take for a cure, and a doubling
 * of the rays a tenth of that.
 */
import type { Effect } from '../../contracts/figures.ts';
import type { Remedy } from '../../contracts/finding.ts';
import { changeOf, sidesOf } from '../../figures/effect.ts';
import { costAtEqualNoise } from '../../predict/equal-noise.ts';

/** Below this share nobody counts them. */
const ALL = 0.01;
export const STOP = 0.25;
const DOUBLING = 0.1;

/** Cures that leave the light as it is and aim at it: the least that is known of them, whatever is put on top. */
const AIMS_AT_THE_SAME = /^(sample-emitter|equivalent-light)/;

/** @param left share of the fireflies; by default as the effect has it. @param id of the remedy, where it has one */
export function hurtOf(effect: Effect, left = leftOf(effect), id = ''): number {
  const brightness = changeOf(effect, 'brightness') ?? 0;
  const change = AIMS_AT_THE_SAME.test(id)
    ? Math.max(0, -brightness)
    : Math.max(Math.abs(brightness), Math.abs(changeOf(effect, 'most-changed') ?? 0));
  return (left <= ALL ? 0 : left) + STOP * change + DOUBLING * Math.log2(costAtEqualNoise(effect));
}

function leftOf(effect: Effect): number {
  const { before, after } = sidesOf(effect, 'fireflies');
  return before !== null && after !== null && before > 0 ? after / before : 1;
}

const hurt = ({ id, predicted }: Remedy): number => (predicted ? hurtOf(predicted, undefined, id) : Infinity);
/** What is more than one render comes after what is a setting of one, and what nothing can try last, however good. */
const work = ({ change }: Remedy): number => (change === null ? 2 : Number(change.kind === 'hold-out'));
export const byHurt = (remedies: Remedy[]): Remedy[] =>
  [...remedies].sort((a, b) => work(a) - work(b) || hurt(a) - hurt(b));
