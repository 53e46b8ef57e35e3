/** Samples for everything, as many as bring bright parts to the target. */
import { grainOf, plainDisplay } from '../../../data/grain.ts';
import type { Propose } from '../../family.ts';
import { asRendered, withSamples } from '../as-rendered.ts';
import type { NoiseCase } from '../case.ts';

export const brightTarget: Propose<NoiseCase> = (of) => {
  if (of.kind !== 'bright') return null;
  const { input, region, samples, left, y, sigma } = of;
  const leaves = (display?: (value: number) => number) =>
    grainOf(y, sigma, left, display) / (grainOf(y, sigma, 1, display) || 1);
  return {
    id: 'bright-target',
    title: `${samples} samples for everything`,
    change: { kind: 'values', values: { '/samples': samples } },
    foretold: withSamples(asRendered(input, region), {
      noise: leaves(),
      brightNoise: leaves(plainDisplay),
      rays: samples / input.sheet.samples,
    }),
    isWhole: true,
  };
};
