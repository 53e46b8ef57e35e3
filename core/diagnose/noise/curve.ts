/** Visible noise against rays: samples for all, the cheapest mixture, and the knee from which on more buys little. */
import type { Evidence } from '../../contracts/finding.ts';
import type { Plan, SampleModel } from '../../predict/sample-plan.ts';
import { cheapestPlan } from '../../predict/sample-plan.ts';
import { kneeOf } from '../knee.ts';
import type { Plans } from './plans.ts';

const POINTS = 24;
/** Times the rays from which on the axis is logarithmic. */
const WIDE = 12;

/** @param plain the plan that reaches the target by samples per pixel */
export function curveOf(plans: Plans, plain: Plan, model: SampleModel): Evidence {
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
    kind: 'curve',
    title: `Noise against rays, target ${sheet.grainTarget.toFixed(1)}`,
    x: { label: 'times the rays', unit: '×', scale: most > WIDE ? 'logarithmic' : 'linear' },
    y: { label: 'noise', unit: 'of 255', max: Math.ceil(points[0][1]) },
    series: [
      { label: 'samples per pixel', points },
      { label: 'the cheapest mixture', points: mixture },
    ],
    marks: [
      { x: 1, label: `now ${now}`, kind: 'now' },
      { x: points[knee][0], label: 'knee', kind: 'knee' },
      { x: plain.samples / now, label: `${plain.samples}`, kind: 'enough' },
    ],
  };
}
