/** Samples for everything, as many as bring bright parts to the target. */
import { grainOf, plainDisplay } from '../../../data/grain.ts';
import type { Propose } from '../../family.ts';
import { asRendered, withSamples } from '../as-rendered.ts';
import type { NoiseCase } from '../case.ts';

export const brightTarget: Propose<NoiseCase> = (of) => {
  if (of.kind !== 'bright') return null;
  const { input, region, samples, left, y, sigma } = of;
  const sides = (display?: (value: number) => number): [number, number] => [
    grainOf(y, sigma, 1, display),
    grainOf(y, sigma, left, display),
  ];
  return {
    id: 'bright-target',
    title: `${samples} samples per pixel`,
    change: { kind: 'values', values: { '/samples': samples } },
    forecast: withSamples(asRendered(input, region), {
      noise: sides(),
      brightNoise: sides(plainDisplay),
      rays: samples / input.sheet.samples,
    }),
    isWhole: true,
  };
};
