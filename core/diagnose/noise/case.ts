/**
 * Where noise is: the noisiest part of the frame after the shadow lift, the noisiest as the picture is, which the lift blows
 * out, or, where there is less than anyone sees, all of it.
 */
import { grainOf, plainDisplay, visibleGrain } from '../../data/grain.ts';
import { channel, type Region } from '../../data/picture.ts';
import { choosing, measuredIn } from '../../picture/halves.ts';
import { luminancePlane } from '../../picture/measured.ts';
import type { Case, RenderInput } from '../family.ts';
import { byPass, type Share } from './attribution.ts';
import { brightCase, type BrightCase } from './bright-noise.ts';
import { noisiest } from './noisiest.ts';
import { Plans } from './plans.ts';
import { spareCase, type SpareCase } from './spare.ts';

export interface OverCase extends Case {
  kind: 'over';
  input: RenderInput;
  plans: Plans;
  /** Display steps: as rendered, and what the sheet is to reach. */
  now: number;
  target: number;
  /** Light passes by their share of it. */
  shares: Share[];
}

export type NoiseCase = OverCase | BrightCase | SpareCase;

export function casesOf(input: RenderInput): NoiseCase[] {
  const { picture, sheet } = input;
  const y = luminancePlane(picture, 'beauty');
  const sigma = channel(picture, 'error.beauty');
  const visible = y.map((value, i) => visibleGrain(value, sigma[i]));
  const region = noisiest(picture, choosing(picture, visible));
  const [ys, sigmas] = measuredIn(picture, region, y, sigma);
  const now = grainOf(ys, sigmas);
  const bright = brightestNoise(input);
  const ofBright = brightCase(input, bright);
  if (now > sheet.grainTarget) return [overCase(input, region, now, visible), ...(ofBright ? [ofBright] : [])];
  const found = spareCase(input, region, now, bright.steps) ?? ofBright;
  return found ? [found] : [];
}

function overCase(input: RenderInput, region: Region, now: number, visible: Float32Array): OverCase {
  const target = input.sheet.grainTarget;
  const plans = new Plans(input, region, now);
  const shares = byPass(input, region, plans.weights);
  const [{ label: worst }] = shares;
  return {
    key: 'noise',
    kind: 'over',
    severity: now > 2 * target ? 'caution' : 'note',
    region,
    mask: Uint8Array.from(visible, (v) => (v > target ? 1 : 0)),
    passes: [worst, `error.${worst}`, 'error.beauty'],
    input,
    plans,
    now,
    target,
    shares,
  };
}

/** Where noise is most without the lift, and how much. */
export function brightestNoise({ picture }: RenderInput) {
  const y = luminancePlane(picture, 'beauty');
  const sigma = channel(picture, 'error.beauty');
  const visible = y.map((value, i) => visibleGrain(value, sigma[i], plainDisplay));
  const region = noisiest(picture, choosing(picture, visible));
  const [ys, sigmas] = measuredIn(picture, region, y, sigma);
  const steps = grainOf(ys, sigmas, 1, plainDisplay);
  return { region, steps, visible };
}
