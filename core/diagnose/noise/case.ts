/**
 * Where noise is: the noisiest part of the frame with shadows boosted, the noisiest as the picture is, which the boost blows
 * out, or, where there is less than anyone sees, all of it.
 */
import { boostedDisplay, plainDisplay } from '../../data/grain.ts';
import type { Region } from '../../data/picture.ts';
import type { Case, RenderInput } from '../family.ts';
import { byPass, type Share } from './attribution.ts';
import { brightCase, type BrightCase } from './bright-noise.ts';
import { noisiestPlace } from './noisiest.ts';
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
  const { region, steps: now, visible } = noisiestPlace(picture, boostedDisplay);
  const bright = noisiestPlace(picture, plainDisplay);
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
