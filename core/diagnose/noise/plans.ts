/** Plans of samples for the noisiest region of a picture: what each would cost, and what grain it would leave. */
import type { FigureValue } from '../../contracts/figures.ts';
import { grainOf, grainWeight, liftedDisplay, plainDisplay } from '../../data/grain.ts';
import { channel, type Region } from '../../data/picture.ts';
import { objectNames } from '../../document/object-names.ts';
import { changeOf, sidesOf } from '../../figures/effect.ts';
import { boxMean, cropPlane, luminancePlane } from '../../picture/measured.ts';
import { pilotPixels, pilotStride } from '../../predict/pilot-pixels.ts';
import { predictChange } from '../../predict/predict-change.ts';
import { runSamplePilot, type SamplePilot } from '../../predict/sample-pilot.ts';
import { cheapestPlan, planFor, sampleModel, type ExtraSamples, type Plan, type SampleModel } from '../../predict/sample-plan.ts'; // prettier-ignore
import { settingsOf } from '../../render/scene/scene.ts';
import type { Proposal, RenderInput } from '../family.ts';
import { asRendered, withSamples } from './as-rendered.ts';

const GROUPS = 2;
/** Squares of 5 × 5 pixels. */
const SMOOTHING = 2;
/** As far as a sheet goes. */
export const MOST_SAMPLES = 65536;

/**
 * What is known of the noisiest region, and what plans would make of it.
 *
 * A pixel's own mean and error are too noisy to be put through the display's curve: both are taken as
 * means over small squares first. Measured on the jar shelf, 32 samples foretell the grain of 512 within
 * 3 to 7 % that way, and 18 to 20 % too low without.
 */
export class Plans {
  readonly model: SampleModel;
  readonly pilot: SamplePilot;
  readonly weights: Float64Array;
  /** Factor on the noise that brings the region to the target. */
  readonly scale: number;
  private readonly y: Float64Array;
  private readonly sigma: Float64Array;
  private readonly total: number;
  private readonly groups: number;
  private figures: FigureValue[] | null = null;

  constructor(
    readonly input: RenderInput,
    readonly region: Region,
    readonly now: number,
  ) {
    const { picture, sheet, scene, pilotSeed } = input;
    const smooth = (plane: Float32Array) => boxMean(cropPlane(picture, plane, region), region.width, region.height, SMOOTHING); // prettier-ignore
    const y = smooth(luminancePlane(picture, 'beauty'));
    const variance = smooth(channel(picture, 'error.beauty').map((sigma) => sigma * sigma));
    const sigma = variance.map(Math.sqrt);
    const target = sheet.grainTarget;
    const scale = scaleFor(y, sigma, target, now > target ? 1 : 8);
    const weights = y.map((value, i) => grainWeight(value, sigma[i] * scale));
    const groups = sheet.samples / 4;
    const total = (weights.reduce((sum, w, i) => sum + w * variance[i], 0) / y.length) * groups;
    const frameWeights = new Map<number, number>();
    for (let i = 0; i < y.length; i++) {
      const at = (region.y + Math.floor(i / region.width)) * picture.width + region.x + (i % region.width);
      frameWeights.set(at, weights[i]);
    }
    const pixels = pilotPixels(region, picture.width, pilotStride(sheet.samples, GROUPS, 2));
    const pixelWeights = Float64Array.from(pixels, (p) => frameWeights.get(p)!);
    this.pilot = runSamplePilot(scene, settingsOf(sheet), pixels, pixelWeights, GROUPS, pilotSeed);
    this.model = sampleModel(this.pilot, total, sheet.extraSamples);
    this.y = y;
    this.sigma = sigma;
    this.scale = scale;
    this.weights = weights;
    this.total = total;
    this.groups = groups;
  }

  /** Factor on the noise that brings the region to another target below the sheet's. */
  scaleTo = (target: number): number => scaleFor(this.y, this.sigma, target, this.scale);

  /** Variance that a region of `share` of the present noise has. */
  private allowed = (share: number): number => (this.total / this.groups) * share * share;
  plain = (share: number): Plan => planFor(this.model, this.allowed(share), this.input.sheet.extraSamples);
  mixed = (share: number): Plan => cheapestPlan(this.model, this.allowed(share), this.input.sheet.extraSamples);

  get raysNow(): number {
    return this.groups * this.model.rays(this.input.sheet.extraSamples);
  }

  /** Factor on the noise that a plan leaves. */
  private leaves({ samples, extra }: Pick<Plan, 'samples' | 'extra'>): number {
    const { model, groups, total } = this;
    return Math.sqrt((model.variance(extra) * groups) / ((samples / 4) * total));
  }

  grainAt = (plan: Pick<Plan, 'samples' | 'extra'>): number => grainOf(this.y, this.sigma, this.leaves(plan));

  private get present(): FigureValue[] {
    return (this.figures ??= asRendered(this.input, this.region));
  }

  /** Every pixel has as many. The pictures differ in noise alone, and the model tells that better than a small render. */
  even(id: string, title: string, plan: Plan): Proposal {
    const { y, sigma, input, now, raysNow } = this;
    const { sheet } = input;
    const left = this.leaves(plan);
    const bright = grainOf(y, sigma, left, plainDisplay) / (grainOf(y, sigma, 1, plainDisplay) || 1);
    return {
      id,
      title,
      change: { kind: 'values', values: valuesOf(sheet.samples, sheet.extraSamples, plan) },
      foretold: withSamples(this.present, { noise: this.grainAt(plan) / now, brightNoise: bright, rays: plan.rays / raysNow }), // prettier-ignore
      isWhole: true,
    };
  }

  /**
   * Each pixel has what it needs, with the extra samples of a plan, and no more than twice what all would get. Pixels
   * judge by few samples and often too low: a small render tells what comes of it, and the target is set that much lower.
   */
  needed(id: string, plan: Plan): Proposal {
    const { input, region } = this;
    const { sheet, picture, scene, document, pilotSeed, clock } = input;
    const frame = { x: 0, y: 0, width: picture.width, height: picture.height };
    const ceiling = Math.min(MOST_SAMPLES, Math.max(2 * plan.samples, sheet.adaptive.least));
    const extra = valuesOf(plan.samples, sheet.extraSamples, plan);
    const foretell = (where: Region, target: number) => {
      const values = { ...extra, '/adaptive/on': true, '/adaptive/target': target, '/samples': ceiling };
      const change = { before: { scene, sheet }, region: where, mask: null, picture, names: objectNames(document), seed: pilotSeed, clock }; // prettier-ignore
      return { values, effect: predictChange({ ...change, after: input.vary(values) }) };
    };
    const asked = sidesOf(foretell(region, sheet.grainTarget).effect, 'noise').after ?? sheet.grainTarget;
    const lower = sheet.grainTarget * Math.min(1, sheet.grainTarget / asked);
    const target = Math.max(0.1, Number(lower.toFixed(1)));
    const { values, effect } = foretell(region, target);
    const told = tellExtra(sheet.extraSamples, plan);
    const frameRays = changeOf(foretell(frame, target).effect, 'rays')!;
    return {
      id,
      title: `Samples by need, ${ceiling} at most${told && `, with ${told}`}`,
      change: { kind: 'values', values },
      foretold: effect.figures.map((value) => (value.id === 'rays' ? { ...value, frame: frameRays } : value)),
      isWhole: true,
    };
  }
}

function valuesOf(samples: number, extra: ExtraSamples, plan: Plan): Record<string, number> {
  const values: Record<string, number> = {};
  if (plan.samples !== samples) values['/samples'] = plan.samples;
  for (const [kind, n] of Object.entries(plan.extra))
    if (n !== extra[kind as keyof ExtraSamples]) values[`/extraSamples/${kind}`] = n;
  return values;
}

const tellExtra = (extra: ExtraSamples, plan: Plan): string =>
  Object.entries(plan.extra)
    .filter(([kind, n]) => n !== extra[kind as keyof ExtraSamples])
    .map(([kind, n]) => `${n} × ${kind}`)
    .join(' and ');

export function titleOf(extra: ExtraSamples, plan: Plan): string {
  const told = tellExtra(extra, plan);
  return told ? `${plan.samples} samples, with ${told}` : `${plan.samples} samples for everything`;
}

/** Factor on the noise that brings a region to a target. @param most greatest factor that is looked at */
export const scaleFor = (
  y: ArrayLike<number>,
  sigma: ArrayLike<number>,
  target: number,
  most: number,
  display = liftedDisplay,
): number => bisect((s) => grainOf(y, sigma, s, display) - target, 0, most);

function bisect(f: (x: number) => number, low: number, high: number): number {
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (f(middle) > 0) high = middle;
    else low = middle;
  }
  return low;
}
