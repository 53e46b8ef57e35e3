/** What a change does, in words: the figures of a prediction or of a trial, as their definitions have them. */
import type { Effect } from '../core/contracts/figures.ts';
import type { JsonPatch } from '../core/document/patch.ts';
import { pointerOf } from '../core/document/pointers.ts';
import { tellFigure, toldOf } from '../core/figures/effect.ts';
import { tellNothing } from '../core/figures/nothing-shown.ts';
import { samplesAtEqualNoise } from '../core/predict/equal-noise.ts';

/** "fireflies 12 → 0 · brightness −0.2 stops · noise 7.6 → 7.1 steps · rays × 1.00": what changes, and what is always told. */
export const tellEffect = (effect: Effect): string => toldOf(effect).map(tellFigure).join(' · ');

/** Where the dials of a trial show, if nothing that was measured shows them. */
export const tellUnseen = (effect: Effect, patch: JsonPatch): string =>
  tellNothing(effect, patch.filter(({ op }) => op !== 'test').map(({ path }) => pointerOf(path))); // prettier-ignore

/** "32 samples with it are as clean as 128 without"; empty where noise hardly changes, or samples are what was changed. */
export function tellEqualNoise(effect: Effect, samples: { before: number; after: number }): string {
  const factor = samplesAtEqualNoise(effect);
  if (samples.before !== samples.after || !(factor > 0) || Math.abs(Math.log2(factor)) < 0.25) return '';
  return `${samples.after} samples with it are as clean as ${Math.max(1, Math.round(samples.after / factor))} without`;
}
