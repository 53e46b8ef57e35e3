/** Plans of samples for the noisiest region of a picture: what each would cost, and what grain it would leave. */
import type { FigureValue } from '../../contracts/figures.ts';
import { grainOf, grainWeight, boostedDisplay, plainDisplay } from '../../data/grain.ts';
import { channel, type Region } from '../../data/picture.ts';
import { objectNames } from '../../document/object-names.ts';
import { changeOf, sidesOf } from '../../figures/effect.ts';
import { isMeasured, measuredIn } from '../../picture/halves.ts';
import { cropPlane, luminancePlane } from '../../picture/measured.ts';
import { lightPilot } from '../../predict/light-pilot.ts';
import { predictChange } from '../../predict/predict-change.ts';
import { samplePilot, type ExtraSamples } from '../../predict/sample-pilot.ts';
import {
  planFor,
  provenPlan,
  sampleModel,
  type Plan,
  type PlannedKind,
  type SampleModel,
} from '../../predict/sample-plan.ts';
import { settingsOf } from '../../render/scene/scene.ts';
import type { Proposal, RenderInput } from '../family.ts';
import { asRendered, withSamples } from './as-rendered.ts';
import { smoothed } from './smoothed.ts';

/** Groups of each pixel of a pilot, and the most pixels that are needed: their variances are told within a tenth. */
const GROUPS = 8;
const MOST_PIXELS = 400;
/** Fewer take kinds for one another. Where this is more than a quarter of a trial, that takes a second or two. */
const LEAST_PIXELS = 160;
/** Fewer tell which light it is. */
const LIGHT_PIXELS = 100;
const LIGHT_GROUPS = 2;
/** Times as many samples of a kind that are looked at, and the share of the rays that one must leave to be worth it. */
const TIMES = [2, 4, 8];
const WORTH = 0.92;
/** As far as a sheet goes. */
export const MOST_SAMPLES = 65536;

/**
 * What is known of the noisiest region, and what plans would make of it.
 *
 * A pixel's own mean and error are too noisy to be put through the display's curve: both are taken as
 * means over small squares first. Measured on the jar shelf, 32 samples forecast the grain of 512 within
 * 3 to 7 % that way, and 18 to 20 % too low without.
 */
export class Plans {
  readonly model: SampleModel;
  /** Weighted variance by light, see `lightPilot`. */
  readonly byLight: Float64Array;
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
    const { width, height } = region;
    const isOne = width * height === 1;
    // Those that chose the place tell no noise of it.
    const counts = Float32Array.from({ length: width * height }, (_, i) => Number(isOne || isMeasured(region.x + (i % width), region.y + Math.floor(i / width)))); // prettier-ignore
    const luminances = cropPlane(picture, luminancePlane(picture, 'beauty'), region);
    const errors = cropPlane(picture, channel(picture, 'error.beauty'), region);
    const { y, variance } = smoothed(luminances, errors, counts, width, height);
    const sigma = variance.map(Math.sqrt);
    const target = sheet.grainTarget;
    const scale = scaleFor(y, sigma, target, now > target ? 1 : 8);
    const weights = y.map((value, i) => grainWeight(value, sigma[i] * scale));
    const groups = sheet.samples / 4;
    const total = (weights.reduce((sum, w, i) => sum + w * variance[i], 0) / y.length) * groups;
    const inside = [...counts.keys()].filter((i) => counts[i] > 0);
    const settings = settingsOf(sheet);
    const pilotOf = (most: number) => {
      const some = evenly(inside, most);
      const pixels = Uint32Array.from(some, (i) => (region.y + Math.floor(i / width)) * picture.width + region.x + (i % width)); // prettier-ignore
      return { pixels, weights: Float64Array.from(some, (i) => weights[i]) };
    };
    const ofSamples = pilotOf(pilotPixels(width * height, groups, scale));
    const ofLights = pilotOf(LIGHT_PIXELS);
    const measure = samplePilot(scene, settings, ofSamples.pixels, ofSamples.weights, GROUPS, pilotSeed);
    this.model = sampleModel(measure, total, sheet.extraSamples);
    this.byLight = lightPilot(scene, settings, ofLights.pixels, ofLights.weights, LIGHT_GROUPS, pilotSeed);
    this.y = y;
    this.sigma = sigma;
    this.scale = scale;
    this.weights = weights;
    this.total = total;
    this.groups = groups;
  }

  /** Factor on the noise that brings the region to another target below the sheet's. */
  scaleTo = (target: number): number => scaleFor(this.y, this.sigma, target, this.scale);

  /** Whether more samples of a kind lower noise for fewer rays than samples per pixel do. */
  isWorthRaising(kind: PlannedKind): boolean {
    const { extraSamples } = this.input.sheet;
    const cost = (extra: ExtraSamples) => this.model.variance(extra) * this.model.rays(extra);
    const now = cost(extraSamples);
    return TIMES.some((times) => cost({ ...extraSamples, [kind]: extraSamples[kind] * times }) < WORTH * now);
  }

  /** Variance that a region of `share` of the present noise has. */
  private allowed = (share: number): number => (this.total / this.groups) * share * share;
  plain = (share: number): Plan => planFor(this.model, this.allowed(share), this.input.sheet.extraSamples);
  mixed = (share: number): Plan => provenPlan(this.model, this.allowed(share), this.input.sheet.extraSamples);

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
    const { picture } = input;
    const bright = grainOf(y, sigma, left, plainDisplay) / (grainOf(y, sigma, 1, plainDisplay) || 1);
    const [ys, sigmas] = measuredIn(
      picture,
      this.region,
      luminancePlane(picture, 'beauty'),
      channel(picture, 'error.beauty'),
    );
    const brightNow = grainOf(ys, sigmas, 1, plainDisplay);
    return {
      id,
      title,
      change: { kind: 'values', values: valuesOf(sheet.samples, sheet.extraSamples, plan) },
      forecast: withSamples(this.present, { noise: [now, this.grainAt(plan)], brightNoise: [brightNow, brightNow * bright], rays: plan.rays / raysNow }), // prettier-ignore
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
    const forecast = (where: Region, target: number) => {
      const values = { ...extra, '/adaptive/on': true, '/adaptive/target': target, '/samples': ceiling };
      const change = { before: { scene, sheet }, region: where, mask: null, picture, names: objectNames(document), seed: pilotSeed, clock }; // prettier-ignore
      return { values, effect: predictChange({ ...change, after: input.vary(values) }) };
    };
    const asked = sidesOf(forecast(region, sheet.grainTarget).effect, 'noise').after ?? sheet.grainTarget;
    const lower = sheet.grainTarget * Math.min(1, sheet.grainTarget / asked);
    const target = Math.max(0.1, Number(lower.toFixed(1)));
    const { values, effect } = forecast(region, target);
    const told = tellExtra(sheet.extraSamples, plan);
    const frameRays = changeOf(forecast(frame, target).effect, 'rays')!;
    return {
      id,
      title: `Adaptive sampling, ${ceiling} at most${told && `, with ${told}`}`,
      change: { kind: 'values', values },
      forecast: effect.figures.map((value) => (value.id === 'rays' ? { ...value, frame: frameRays } : value)),
      isWhole: true,
    };
  }
}

/** Renders of a pilot, each as dear as so many with the sheet's own counts: the counts as they are, each kind raised, all, plans. */
const RENDERS = 20;
/** Share of a trial's rays that a prediction may take. */
const SHARE = 0.25;

/**
 * Pixels of a pilot that takes at most a quarter of the rays of a trial of the plan that reaches the target, both sides of it.
 * @param scale factor on the noise that reaches the target
 */
export function pilotPixels(region: number, groups: number, scale: number): number {
  const trial = region * groups * (1 + 1 / Math.min(1, scale) ** 2);
  return Math.min(MOST_PIXELS, Math.max(LEAST_PIXELS, Math.floor((SHARE * trial) / (RENDERS * GROUPS))));
}

/** At most so many of a list, from all of it. */
const evenly = (list: number[], most: number): number[] =>
  list.length <= most
    ? list
    : Array.from({ length: most }, (_, k) => list[Math.floor(((k + 0.5) * list.length) / most)]);

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
  return told ? `${plan.samples} samples, with ${told}` : `${plan.samples} samples per pixel`;
}

/** Factor on the noise that brings a region to a target. @param most greatest factor that is looked at */
export const scaleFor = (
  y: ArrayLike<number>,
  sigma: ArrayLike<number>,
  target: number,
  most: number,
  display = boostedDisplay,
): number => bisect((s) => grainOf(y, sigma, s, display) - target, 0, most);

function bisect(f: (x: number) => number, low: number, high: number): number {
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (f(middle) > 0) high = middle;
    else low = middle;
  }
  return low;
}
