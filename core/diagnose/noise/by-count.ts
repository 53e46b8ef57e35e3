/** What more samples of the kind that has most of the noise would do by themselves: the noise they leave, and what they cost. */
import type { Evidence } from '../../contracts/finding.ts';
import { PLANNED_KINDS } from '../../predict/sample-plan.ts';
import type { Plans } from './plans.ts';

const TIMES = [1, 2, 4, 8];
/** Share of the variance below which no kind is worth a table. */
const SHARE = 0.1;

export function byCount(plans: Plans): Evidence[] {
  const { model, input, raysNow, now } = plans;
  const { samples, extraSamples } = input.sheet;
  const all = [...PLANNED_KINDS, 'camera' as const].reduce((sum, kind) => sum + model.parts[kind], 0);
  const [kind] = [...PLANNED_KINDS].sort((a, b) => model.parts[b] - model.parts[a]);
  if (!(model.parts[kind] > SHARE * all)) return [];
  const rows = TIMES.map((times) => {
    const extra = { ...extraSamples, [kind]: extraSamples[kind] * times };
    const rays = ((samples / 4) * model.rays(extra)) / raysNow;
    const noise = (now * plans.grainAt({ samples, extra })) / plans.grainAt({ samples, extra: extraSamples });
    return [extra[kind], noise.toFixed(1), `× ${rays.toFixed(2)}`];
  });
  return [{ kind: 'table', title: `More ${kind} samples and nothing else`, columns: [`${kind} samples`, 'noise', 'rays'], rows }]; // prettier-ignore
}
