/**
 * Noise in bright parts. The shadow boost blows out what is brighter than a quarter of white, so that its noise is not in the
 * measure; on the picture as it is it is seen all the same.
 */
import { grainOf, grainWeight, plainDisplay } from '../../data/grain.ts';
import { channel } from '../../data/picture.ts';
import { measuredIn } from '../../picture/halves.ts';
import { cropPlane, luminancePlane } from '../../picture/measured.ts';
import type { Case, RenderInput } from '../family.ts';
import { byPass, type Share } from './attribution.ts';
import type { NoisyPlace } from './noisiest.ts';
import { MOST_SAMPLES, scaleFor } from './plans.ts';

export interface BrightCase extends Case {
  kind: 'bright';
  input: RenderInput;
  /** Display steps without shadow boost: as rendered, and what the sheet is to reach. */
  steps: number;
  target: number;
  /** The pass with most of it. */
  worst: Share;
  /** Samples per pixel that reach the target, and what is left of the noise then, as a factor. */
  samples: number;
  left: number;
  y: Float32Array;
  sigma: Float32Array;
}

/** Null where it is within the target, or where the boost shows it as well. */
export function brightCase(input: RenderInput, { region, steps, visible }: NoisyPlace): BrightCase | null {
  const { picture, sheet } = input;
  const target = sheet.grainTarget;
  const planes = [luminancePlane(picture, 'beauty'), channel(picture, 'error.beauty')];
  const [y, sigma] = measuredIn(picture, region, ...planes);
  if (steps <= target || grainOf(y, sigma) > target) return null;
  const scale = scaleFor(y, sigma, target, 1, plainDisplay);
  const samples = Math.min(MOST_SAMPLES, 4 * Math.ceil(sheet.samples / scale ** 2 / 4));
  const [all, errors] = planes.map((plane) => cropPlane(picture, plane, region));
  const weights = all.map((value, i) => grainWeight(value, errors[i], plainDisplay));
  const [worst] = byPass(input, region, weights);
  return {
    key: 'noise.bright',
    kind: 'bright',
    severity: steps > 2 * target ? 'caution' : 'note',
    region,
    mask: Uint8Array.from(visible, (v) => (v > target ? 1 : 0)),
    passes: [worst.label, `error.${worst.label}`, 'error.beauty'],
    input,
    steps,
    target,
    worst,
    samples,
    left: Math.sqrt(sheet.samples / samples),
    y,
    sigma,
  };
}
