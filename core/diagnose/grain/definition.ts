/**
 * Grain: noise that shows after the shadow lift. Whose it is by pass, light, dial, object and tone; what reaches the
 * sheet's target: more samples for all, the cheapest mixture of kinds (Neyman 1934), samples by need; and where there is
 * more than anyone sees, what can be taken away.
 */
import type { Finding } from '../../contracts/finding.ts';
import { grainOf, visibleGrain } from '../../data/grain.ts';
import { channel, type Region } from '../../data/picture.ts';
import { cropPlane, luminancePlane } from '../../picture/measured.ts';
import { planFor, type Plan } from '../../predict/sample-plan.ts';
import { LIGHT_PASSES } from '../../render/film/passes.ts';
import type { Diagnosis, DiagnosisInput } from '../diagnosis.ts';
import { barsOf, byPass, passName } from './attribution.ts';
import { brightGrain, brightFinding } from './bright.ts';
import { chartOf } from './chart.ts';
import { grainiest } from './grainiest.ts';
import { kindOf } from './kind.ts';
import { MOST_SAMPLES, Plans, titleOf } from './plans.ts';
import { guiltySuspects } from './suspects/registry.ts';

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
    const region = grainiest(picture, visible);
    const now = grainOf(cropPlane(picture, y, region), cropPlane(picture, sigma, region));
    const target = sheet.grainTarget;
    const bright = brightGrain(input);
    const found = [brightFinding(input, bright)].filter((one) => one !== null);
    if (now > target) {
      const mask = Uint8Array.from(visible, (v) => (v > target ? 1 : 0));
      return [{ mask, finding: tooMuch(new Plans(input, region, now)) }, ...found];
    }
    const isSpare = now > 0 && now < SPARE * target && !sheet.adaptive.on;
    const spare = isSpare ? moreThanNeeded(new Plans(input, region, now), bright.steps) : null;
    return spare ? [{ mask: new Uint8Array(y.length).fill(1), finding: spare }] : found;
  },
};

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

/**
 * Null where too little can be taken away to be worth it.
 * @param bright steps of grain that the lift does not show
 */
function moreThanNeeded(plans: Plans, bright: number): Finding | null {
  const { input, now, region, scale } = plans;
  const { sheet } = input;
  const { extraSamples, samples } = sheet;
  const ones = { ...extraSamples, light: 1, diffuse: 1, specular: 1, transmission: 1, volume: 1 };
  // The variance of a pixel's mean that is left when the region stands at the target.
  const allowed = (plans.model.variance(extraSamples) * scale * scale) / (samples / 4);
  /** How many times fewer samples of any kind there are. Bright parts have at most its root as much more grain. */
  const fewer = (plan: Plan) =>
    Object.entries(plan.extra).reduce(
      (all, [kind, n]) => all * (extraSamples[kind as keyof typeof extraSamples] / n),
      samples / plan.samples,
    );
  const candidates = [plans.plain(scale), planFor(plans.model, allowed, ones)].filter(
    (plan) => plan.samples <= samples && bright * Math.sqrt(Math.max(1, fewer(plan))) <= sheet.grainTarget,
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
