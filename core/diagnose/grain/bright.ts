/**
 * Grain in bright parts. The shadow lift blows out what is brighter than a quarter of white, so that its grain is not in
 * the measure; on the picture as it is it is seen all the same.
 */
import type { FindingWithMask } from '../../contracts/finding.ts';
import { grainOf, grainWeight, plainDisplay, visibleGrain } from '../../data/grain.ts';
import { channel, type Region } from '../../data/picture.ts';
import { cropPlane, luminancePlane } from '../../picture/measured.ts';
import type { DiagnosisInput } from '../diagnosis.ts';
import { byPass, passName } from './attribution.ts';
import { grainiest } from './grainiest.ts';
import { MOST_SAMPLES, scaleFor } from './plans.ts';

export interface BrightGrain {
  /** Where it is most. */
  region: Region;
  /** Display steps, without the lift. */
  steps: number;
  /** Of each pixel of the frame. */
  visible: Float32Array;
}

export function brightGrain({ picture }: DiagnosisInput): BrightGrain {
  const y = luminancePlane(picture, 'beauty');
  const sigma = channel(picture, 'error.beauty');
  const visible = y.map((value, i) => visibleGrain(value, sigma[i], plainDisplay));
  const region = grainiest(picture, visible);
  const steps = grainOf(cropPlane(picture, y, region), cropPlane(picture, sigma, region), 1, plainDisplay);
  return { region, steps, visible };
}

/** Null where it is within the target, or where the lift shows it as well. */
export function brightFinding(input: DiagnosisInput, { region, steps, visible }: BrightGrain): FindingWithMask | null {
  const { picture, sheet } = input;
  const target = sheet.grainTarget;
  const y = cropPlane(picture, luminancePlane(picture, 'beauty'), region);
  const sigma = cropPlane(picture, channel(picture, 'error.beauty'), region);
  const lifted = grainOf(y, sigma);
  if (steps <= target || lifted > target) return null;
  const scale = scaleFor(y, sigma, target, 1, plainDisplay);
  const samples = Math.min(MOST_SAMPLES, 4 * Math.ceil(sheet.samples / scale ** 2 / 4));
  const left = Math.sqrt(sheet.samples / samples);
  const cost = samples / sheet.samples;
  const weights = y.map((value, i) => grainWeight(value, sigma[i], plainDisplay));
  const [worst] = byPass(input, region, weights);
  const share = Math.round(100 * worst.share);
  return {
    mask: Uint8Array.from(visible, (v) => (v > target ? 1 : 0)),
    finding: {
      family: 'grain',
      key: 'grain.bright',
      severity: steps > 2 * target ? 'caution' : 'note',
      sentence: `Grain where it is bright: ${steps.toFixed(1)} steps as the picture is, target ${target.toFixed(1)}.`,
      cause: `${share} % of it is ${passName(worst.label)}`,
      why: 'The shadow lift blows out what is brighter than a quarter of white, and its grain with it: look without the lift. Four times the samples halve it.',
      region,
      passes: [worst.label, `error.${worst.label}`, 'error.beauty'],
      dials: [{ pointer: '/samples', needs: samples, note: null }],
      chart: null,
      remedies: [
        {
          id: 'bright-target',
          title: `${samples} samples for everything`,
          values: { '/samples': samples },
          predicted: { stops: 0, cost, frameCost: cost, grainBefore: lifted, grainAfter: grainOf(y, sigma, left) },
          note: `Without the lift: ${steps.toFixed(1)} to ${grainOf(y, sigma, left, plainDisplay).toFixed(1)} steps.`,
        },
      ],
    },
  };
}
