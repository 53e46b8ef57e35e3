/**
 * Noise of an occlusion pass: root mean square of its pixels' standard errors, steps of 255. A ray is open or shut, so that
 * the error is the binomial's (Wilson 1927); pixels whose rays are stratified have a little less.
 */
import { channel } from '../data/picture.ts';
import { errorBy } from '../occlusion/curve.ts';
import type { Figure } from './figure.ts';
import { occlusionPasses, opennessOf } from './occlusion-pass.ts';

export const occlusionNoise: Figure = {
  id: 'occlusion-noise',
  label: 'Noise of the occlusion pass',
  short: 'occlusion noise',
  unit: 'steps',
  better: 'less',
  change: 'ratio',
  seen: 0.05,
  needs: (layout) => (layout.occlusion ? [...occlusionPasses(layout), 'samples'] : []),
  measure({ picture, occlusionRays }) {
    if (!picture) return null;
    const samples = channel(picture, 'samples');
    let [sum, count] = [0, 0];
    opennessOf(picture, (openness, i) => {
      // Openness is told by the same rays: of one that is not known the variance is by one ray less.
      sum += errorBy(openness, Math.max(1, samples[i] * occlusionRays - 1)) ** 2;
      count += 1;
    });
    return count > 0 ? 255 * Math.sqrt(sum / count) : null;
  },
  carry({ before, after, ...value }, { samplesFor }) {
    const carried = (noise: number | null, k: number) => noise && noise / Math.sqrt(samplesFor[k]);
    return { ...value, before: carried(before, 0), after: carried(after, 1) };
  },
};
