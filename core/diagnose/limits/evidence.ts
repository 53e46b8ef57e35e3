import type { ChartMark, Evidence } from '../../contracts/finding.ts';
import { LIFTED } from '../../predict/limit-pilot.ts';
import type { LimitCase } from './case.ts';

/** Light against the limit, with what stands now, the knee and enough. */
export function curveOf({ pilot, kind, now, enough, knee, all }: LimitCase): Evidence {
  const top = Math.min(LIFTED[kind], enough[kind] + 4);
  const through = (n: number) => (100 * pilot.energy({ ...now, [kind]: n, overall: LIFTED.overall })) / all;
  const marks: ChartMark[] = [{ x: now[kind], label: `now ${now[kind]}`, kind: 'now' }];
  if (now.overall < enough.overall && now.overall <= top)
    marks.push({ x: now.overall, label: `overall ${now.overall}`, kind: 'override' });
  if (knee[kind] < enough[kind]) marks.push({ x: knee[kind], label: `knee ${knee[kind]}`, kind: 'knee' });
  marks.push({ x: enough[kind], label: `${enough[kind]}`, kind: 'enough' });
  return {
    kind: 'curve',
    title: `Light let through at each ${kind} limit, the overall lifted`,
    x: { label: `${kind} limit` },
    y: { label: 'of the light', unit: '%', max: 100 },
    series: [{ label: 'of the light', points: Array.from({ length: top + 1 }, (_, n) => [n, through(n)]) }],
    marks,
  };
}
