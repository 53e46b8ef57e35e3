/**
 * Grain: noise that shows after the shadow lift. Whose it is by pass, light, dial, object and tone; what reaches the
 * sheet's target: more samples for all, the cheapest mixture of kinds (Neyman 1934), samples by need; and where there is
 * more than anyone sees, what can be taken away.
 *
 * A pixel's own mean and error are too noisy to be put through the display's curve: both are taken as
 * means over small squares first. Measured on the jar shelf, 32 samples foretell the grain of 512 within
 * 3 to 7 % that way, and 18 to 20 % too low without.
 */
import type { Finding, Remedy } from '../../contracts/finding.ts';
import { channel, type Region } from '../../data/picture.ts';
import { grainOf, grainWeight, visibleGrain } from '../../data/grain.ts';
import { boxMean, cropPlane, luminancePlane, strongestWindow } from '../../picture/measured.ts';
import { predictChange } from '../../predict/predict-change.ts';
import { objectNames } from '../../document/object-names.ts';
import { pilotPixels, pilotStride } from '../../predict/pilot-pixels.ts';
import { cheapestPlan, planFor, sampleModel, type ExtraSamples, type Plan, type SampleModel } from '../../predict/sample-plan.ts'; // prettier-ignore
import { runSamplePilot, type SamplePilot } from '../../predict/sample-pilot.ts';
import { LIGHT_PASSES } from '../../render/passes.ts';
import { settingsOf } from '../../render/scene.ts';
import type { Diagnosis, DiagnosisInput } from '../diagnosis.ts';
import { barsOf, byPass, passName } from './attribution.ts';
import { chartOf } from './chart.ts';
import { kindOf } from './kind.ts';
import { guiltySuspects } from './suspects/registry.ts';

const GROUPS = 2;
/** Squares of 5 × 5 pixels. */
const SMOOTHING = 2;
/** Size of a trial's region, as shares of the frame: what a few hundred samples can be afforded on. */
const REGION = { width: 0.15, height: 0.2 };
/** As far as a sheet goes. */
const MOST_SAMPLES = 65536;
/** Beyond this cost the target alone is not advice enough. */
const DEAR = 6;
/** Share of a still's target that a sequence is held to. */
const IN_MOTION = 0.5;
/** Share of the light from which on it is said that clamps hide noise. */
const CLAMPED = 0.01;
/** Share of the target below which nobody would miss what is taken away, and the least share of rays that is worth it. */
const SPARE = 0.7;
const WORTH = 0.8;

export const grain: Diagnosis = {
  id: 'grain',
  title: 'Grain after the shadow lift',
  needs: [
    ...new Set([...LIGHT_PASSES.map((pass) => `error.${pass}`), 'beauty', 'object', 'object.coverage', 'clamped']),
  ],
  examine(input) {
    const { picture, sheet } = input;
    const y = luminancePlane(picture, 'beauty');
    const sigma = channel(picture, 'error.beauty');
    const visible = y.map((value, i) => visibleGrain(value, sigma[i]));
    const region = strongestWindow(
      picture,
      visible.map((v) => v * v),
      Math.ceil(picture.width * REGION.width),
      Math.ceil(picture.height * REGION.height),
    );
    const now = grainOf(cropPlane(picture, y, region), cropPlane(picture, sigma, region));
    const target = sheet.grainTarget;
    if (now > target) {
      const mask = Uint8Array.from(visible, (v) => (v > target ? 1 : 0));
      return [{ mask, finding: tooMuch(new Plans(input, region, now)) }];
    }
    const spare =
      now > 0 && now < SPARE * target && !sheet.adaptive.on ? moreThanNeeded(new Plans(input, region, now)) : null;
    return spare ? [{ mask: new Uint8Array(y.length).fill(1), finding: spare }] : [];
  },
};

/** What is known of the noisiest region, and what plans would make of it. */
class Plans {
  readonly model: SampleModel;
  readonly pilot: SamplePilot;
  readonly weights: Float64Array;
  /** Factor on the noise that brings the region to the target. */
  readonly scale: number;
  private readonly y: Float64Array;
  private readonly sigma: Float64Array;
  private readonly total: number;
  private readonly groups: number;

  constructor(
    readonly input: DiagnosisInput,
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

  grainAt(plan: Pick<Plan, 'samples' | 'extra'>): number {
    const { model, groups, total, y, sigma } = this;
    return grainOf(y, sigma, Math.sqrt((model.variance(plan.extra) * groups) / ((plan.samples / 4) * total)));
  }

  /** Every pixel has as many. */
  even(id: string, title: string, plan: Plan): Remedy {
    const { sheet } = this.input;
    const cost = plan.rays / this.raysNow;
    return {
      id,
      title,
      values: valuesOf(sheet.samples, sheet.extraSamples, plan),
      predicted: { stops: 0, cost, frameCost: cost, grainBefore: this.now, grainAfter: this.grainAt(plan) },
    };
  }

  /**
   * Each pixel has what it needs, with the extra samples of a plan, and no more than twice what all would get. Pixels
   * judge by few samples and often too low: a small render tells what comes of it, and the target is set that much lower.
   */
  needed(id: string, plan: Plan): Remedy {
    const { input, region, now } = this;
    const { sheet, picture, scene, document, pilotSeed } = input;
    const frame = { x: 0, y: 0, width: picture.width, height: picture.height };
    const ceiling = Math.min(MOST_SAMPLES, Math.max(2 * plan.samples, sheet.adaptive.least));
    const extra = valuesOf(plan.samples, sheet.extraSamples, plan);
    const foretell = (where: Region, target: number) => {
      const values = { ...extra, '/adaptive/on': true, '/adaptive/target': target, '/samples': ceiling };
      const change = { before: { scene, sheet }, region: where, mask: null, picture, names: objectNames(document), seed: pilotSeed }; // prettier-ignore
      return { values, effect: predictChange({ ...change, after: input.vary(values) }) };
    };
    const asked = foretell(region, sheet.grainTarget).effect.grainAfter;
    const lower = sheet.grainTarget * Math.min(1, sheet.grainTarget / asked);
    const target = Math.max(0.1, Number(lower.toFixed(1)));
    const { values, effect } = foretell(region, target);
    const told = tellExtra(sheet.extraSamples, plan);
    return {
      id,
      title: `Samples by need, ${ceiling} at most${told && `, with ${told}`}`,
      values,
      predicted: { ...effect, grainBefore: now, frameCost: foretell(frame, target).effect.cost },
    };
  }
}

function tooMuch(plans: Plans): Finding {
  const { input, now, region, scale, model } = plans;
  const { sheet } = input;
  const target = sheet.grainTarget;
  const [plain, mixed] = [plans.plain(scale), plans.mixed(scale)];
  const remedies = [plans.even('target', `${plain.samples} samples for everything`, plain)];
  if (mixed.rays < plain.rays * 0.95) remedies.unshift(plans.even('target-mixture', titleOf(sheet.extraSamples, mixed), mixed)); // prettier-ignore
  if (!sheet.adaptive.on) remedies.unshift(plans.needed('by-need', mixed.rays < plain.rays * 0.95 ? mixed : plain));
  remedies.sort((a, b) => a.predicted.frameCost! - b.predicted.frameCost!);
  if (plain.rays / plans.raysNow > DEAR) {
    const half = plans.mixed(0.5);
    const remedy = plans.even('half', `Half the noise: ${titleOf(sheet.extraSamples, half)}`, half);
    // Where a few bright samples decide, the smoothed picture is no guide to halves.
    if (remedy.predicted.grainAfter < now) remedies.push(remedy);
  }
  const moving = plans.mixed(plans.scaleTo(target * IN_MOTION));
  if (moving.samples <= MOST_SAMPLES)
    remedies.push({
      ...plans.even('sequence', `For a sequence: ${titleOf(sheet.extraSamples, moving)}`, moving),
      note: `Grain that changes from frame to frame boils: half of the still's ${target.toFixed(1)} steps.`,
    });
  const passes = byPass(input, region, plans.weights);
  const [worst] = passes;
  const guilty = guiltySuspects(input, region);
  const kind = kindOf(plans, worst.label, guilty);
  const percent = (x: number) => `${Math.round(100 * x)} %`;
  const named = passes.slice(1, 3).filter((s) => s.share >= 0.005);
  const others = named.length ? `${named.map((s) => `${passName(s.label)} has ${percent(s.share)}`).join(', ')}. ` : '';
  // Where that alone reaches the target, no plan is cheaper.
  for (const { remedy } of guilty)
    if (remedy && remedy.predicted.grainAfter <= target) remedies.unshift(remedy);
    else if (remedy) remedies.push(remedy);
  const [first] = remedies;
  const dials = Object.entries(first.values).filter(([, value]) => typeof value === 'number') as [string, number][];
  return {
    family: 'grain',
    key: 'grain',
    severity: now > 2 * target ? 'caution' : 'note',
    sentence: `Grain in ${passName(worst.label)}: ${now.toFixed(1)} steps after the lift, target ${target.toFixed(1)}.`,
    cause: `${percent(worst.share)} of the visible grain here is ${passName(worst.label)}: ${kind.told}`,
    why: `${others[0]?.toUpperCase() ?? ''}${others.slice(1)}${kind.why} Four times the samples halve the noise; the target asks for ×${(plain.samples / sheet.samples).toFixed(1)} everywhere${first.id === 'target' ? '' : `, or × ${(first.predicted.frameCost ?? first.predicted.cost).toFixed(1)} of the frame’s rays by the first of these`}.${clampedBy(input, region)}`,
    region,
    passes: [worst.label, `error.${worst.label}`, 'error.beauty'],
    dials: dials.map(([pointer, needs]) => ({ pointer, needs, note: null })),
    chart: chartOf(plans, plain, model),
    bars: barsOf(input, region, plans.weights, plans.pilot, model),
    remedies,
  };
}

/** A clamp hides what it takes: more light that is met by chance would be noise again. */
function clampedBy({ picture, sheet }: DiagnosisInput, region: Region): string {
  if (Object.values(sheet.clamps).every((clamp) => clamp === null)) return '';
  const sum = (plane: Float32Array) => cropPlane(picture, plane, region).reduce((all, value) => all + value, 0);
  const [taken, left] = [sum(channel(picture, 'clamped')), sum(luminancePlane(picture, 'beauty'))];
  const share = taken / (taken + left);
  return share >= CLAMPED ? ` Clamps take ${Math.round(100 * share)} % of the light here, and the noise that it would bring.` : ''; // prettier-ignore
}

/** Null where too little can be taken away to be worth it. */
function moreThanNeeded(plans: Plans): Finding | null {
  const { input, now, region, scale } = plans;
  const { sheet } = input;
  const { extraSamples, samples } = sheet;
  const ones = { ...extraSamples, light: 1, diffuse: 1, specular: 1, transmission: 1, volume: 1 };
  // The variance of a pixel's mean that is left when the region stands at the target.
  const allowed = (plans.model.variance(extraSamples) * scale * scale) / (samples / 4);
  const candidates = [plans.plain(scale), planFor(plans.model, allowed, ones)].filter(
    (plan) => plan.samples <= samples,
  );
  const [best] = candidates.sort((a, b) => a.rays - b.rays);
  if (!best || best.rays > WORTH * plans.raysNow) return null;
  const remedy = plans.even('spare', titleOf(sheet.extraSamples, best), best);
  const saved = Math.round(100 * (1 - remedy.predicted.cost));
  return {
    family: 'grain',
    key: 'grain.spare',
    severity: 'note',
    sentence: `More samples than anyone sees: ${now.toFixed(1)} steps of grain at its worst, ${sheet.grainTarget.toFixed(1)} are good enough.`,
    cause: `${saved} % of the rays can be saved`,
    why: `The noisiest place of the frame would have ${remedy.predicted.grainAfter.toFixed(1)} steps.`,
    region,
    passes: ['error.beauty'],
    dials: Object.entries(remedy.values).map(([pointer, needs]) => ({ pointer, needs: Number(needs), note: null })),
    chart: null,
    remedies: [remedy],
  };
}

export type { Plans };

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

function titleOf(extra: ExtraSamples, plan: Plan): string {
  const told = tellExtra(extra, plan);
  return told ? `${plan.samples} samples, with ${told}` : `${plan.samples} samples for everything`;
}

const scaleFor = (y: ArrayLike<number>, sigma: ArrayLike<number>, target: number, most: number): number =>
  bisect((s) => grainOf(y, sigma, s) - target, 0, most);

function bisect(f: (x: number) => number, low: number, high: number): number {
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (f(middle) > 0) high = middle;
    else low = middle;
  }
  return low;
}
