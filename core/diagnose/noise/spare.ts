/** More samples than needed: what can be taken away. */
import { planFor, type Plan } from '../../predict/sample-plan.ts';
import type { Region } from '../../data/picture.ts';
import type { Case, RenderInput } from '../family.ts';
import { Plans } from './plans.ts';

export interface SpareCase extends Case {
  kind: 'spare';
  input: RenderInput;
  plans: Plans;
  plan: Plan;
  now: number;
  target: number;
}

/** Share of the target below which nobody would miss what is taken away, and the least share of rays that is worth it. */
const SPARE = 0.7;
const WORTH = 0.8;

/**
 * Null where too little can be taken away to be worth it.
 * @param bright steps of noise that the boost does not show
 */
export function spareCase(input: RenderInput, region: Region, now: number, bright: number): SpareCase | null {
  const { sheet, picture } = input;
  const target = sheet.grainTarget;
  if (!(now > 0 && now < SPARE * target) || sheet.adaptive.on) return null;
  const plans = new Plans(input, region, now);
  const { extraSamples, samples } = sheet;
  const ones = { ...extraSamples, light: 1, diffuse: 1, specular: 1, transmission: 1, volume: 1 };
  plans.model.learn(ones);
  // The variance of a pixel's mean that is left when the region stands at the target.
  const allowed = (plans.model.variance(extraSamples) * plans.scale ** 2) / (samples / 4);
  /** How many times fewer samples of any kind there are. Bright parts have at most its root as much more noise. */
  const fewer = (plan: Plan) =>
    Object.entries(plan.extra).reduce(
      (all, [kind, n]) => all * (extraSamples[kind as keyof typeof extraSamples] / n),
      samples / plan.samples,
    );
  const candidates = [plans.plain(plans.scale), planFor(plans.model, allowed, ones)].filter(
    (plan) => plan.samples <= samples && bright * Math.sqrt(Math.max(1, fewer(plan))) <= target,
  );
  const [plan] = candidates.sort((a, b) => a.rays - b.rays);
  if (!plan || plan.rays > WORTH * plans.raysNow) return null;
  const mask = new Uint8Array(picture.width * picture.height).fill(1);
  return { key: 'noise.spare', kind: 'spare', severity: 'note', region, mask, passes: ['error.beauty'], input, plans, plan, now, target }; // prettier-ignore
}
