/** Visible grain against cost: samples for all, the cheapest mixture, and the knee from which on more buys little. */
import type { EvidenceChart } from '../../contracts/finding.ts';
import type { Plan, SampleModel } from '../../predict/sample-plan.ts';
import { cheapestPlan } from '../../predict/sample-plan.ts';
import type { Plans } from './plans.ts';

const POINTS = 24;

/** @param plain the plan that reaches the target by samples for everything */
export function chartOf(plans: Plans, plain: Plan, model: SampleModel): EvidenceChart {
  const { sheet } = plans.input;
  const now = sheet.samples;
  const most = Math.max(2, (plain.samples / now) * 1.4);
  const points: [number, number][] = [];
  const mixture: [number, number][] = [];
  for (let k = 0; k <= POINTS; k++) {
    const samples = Math.max(4, 4 * Math.round((now / 4) * 0.5 * (most / 0.5) ** (k / POINTS)));
    if (points.length && samples * 1.0001 <= points.at(-1)![0] * now) continue;
    points.push([samples / now, plans.grainAt({ samples, extra: sheet.extraSamples })]);
    const allowed = (model.variance(sheet.extraSamples) * 4) / samples;
    const mixed = cheapestPlan(model, allowed, sheet.extraSamples);
    mixture.push([mixed.rays / plans.raysNow, plans.grainAt(mixed)]);
  }
  const knee = kneeOf(points);
  return {
    title: `Visible grain against rays, target ${sheet.grainTarget.toFixed(1)}`,
    xLabel: 'times the rays',
    yLabel: 'display steps',
    yMax: Math.ceil(points[0][1]),
    points,
    more: [{ label: 'steps by the cheapest mixture', points: mixture }],
    marks: [
      { x: 1, label: `now ${now}`, kind: 'now' },
      { x: points[knee][0], label: 'knee', kind: 'knee' },
      { x: plain.samples / now, label: `${plain.samples}`, kind: 'enough' },
    ],
  };
}

/**
 * The point furthest below the straight line between the ends.
 * Source: Satopää et al., "Finding a Kneedle in a Haystack", 2011.
 */
export function kneeOf(points: [number, number][]): number {
  const [[x0, y0], [x1, y1]] = [points[0], points.at(-1)!];
  let [best, knee] = [0, 0];
  points.forEach(([x, y], k) => {
    const below = (x - x0) / (x1 - x0) - (y0 - y) / (y0 - y1 || 1);
    if (-below > best) [best, knee] = [-below, k];
  });
  return knee;
}
