/** Where the neutral material is dimmed by ambient occlusion, its few rays are noise of their own. */
import type { Sheet } from '../../../document/schema.ts';
import type { Cause } from '../../family.ts';
import type { NoiseCase } from '../case.ts';

const TIMES = 4;
const MOST = 256;

/** Occlusion samples that are enough to tell; null: they do not matter, or there are no more. */
export function moreOcclusion({ neutral, extraSamples }: Sheet): number | null {
  const samples = Math.min(MOST, extraSamples.occlusion * TIMES);
  return neutral === 'neutral-occlusion' && samples !== extraSamples.occlusion ? samples : null;
}

export const occlusionSamples: Cause<NoiseCase> = {
  id: 'noise.occlusion-samples',
  without(of) {
    const samples = of.kind === 'over' ? moreOcclusion(of.input.sheet) : null;
    return samples === null ? null : { '/extraSamples/occlusion': samples };
  },
};
