/** More occlusion rays under the neutral material. */
import type { Propose } from '../../family.ts';
import type { NoiseCase } from '../case.ts';
import { moreOcclusion } from '../causes/occlusion-samples.ts';

export const moreOcclusionSamples: Propose<NoiseCase> = (of) => {
  const samples = of.kind === 'over' ? moreOcclusion(of.input.sheet) : null;
  if (samples === null) return null;
  return {
    id: 'occlusion-samples',
    title: `${samples} occlusion samples`,
    change: { kind: 'values', values: { '/extraSamples/occlusion': samples } },
    note: 'More rays at the first hit only.',
  };
};
