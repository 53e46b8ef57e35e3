/** What a change does, in words: the figures of a prediction or of a trial. */
import type { Effect } from '../core/contracts/finding.ts';
import { samplesAtEqualNoise } from '../core/predict/equal-noise.ts';
import { number, stops, times } from './format.ts';

/** "12 fireflies → 0 · −0.2 stops · rays × 1.00 · grain 7.6 → 7.1". */
export function tellEffect(effect: Effect): string {
  const { fireflies, frameCost, cost } = effect;
  const parts = [
    fireflies && fireflies.before > 0 ? `${fireflies.before} fireflies → ${fireflies.after}` : '',
    Math.abs(effect.stops) >= 0.05 ? `${stops(effect.stops)} stops` : '',
    frameCost !== undefined && Math.abs(frameCost / cost - 1) > 0.02
      ? `rays of the frame ${times(frameCost)}, here ${times(cost)}`
      : `rays ${times(cost)}`,
    `grain ${number(effect.grainBefore, 1)} → ${number(effect.grainAfter, 1)}`,
  ];
  return parts.filter(Boolean).join(' · ');
}

/** "Changes most: lantern base −6.3 stops"; empty where nothing surely changes. */
export const tellLook = ({ look }: Effect): string =>
  look ? `Changes most: ${look.object} ${stops(look.stops)} stops` : '';

/** "32 samples with it are as clean as 128 without"; empty where noise hardly changes, or samples are what was changed. */
export function tellEqualNoise(effect: Effect, samples: { before: number; after: number }): string {
  const factor = samplesAtEqualNoise(effect);
  if (samples.before !== samples.after || !(factor > 0) || Math.abs(Math.log2(factor)) < 0.25) return '';
  return `${samples.after} samples with it are as clean as ${Math.max(1, Math.round(samples.after / factor))} without`;
}
