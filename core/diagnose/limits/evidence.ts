import type { ChartMark, Evidence } from '../../contracts/finding.ts';
import { LIFTED, type LightPart } from '../../predict/limit-pilot.ts';
import { percent } from '../words.ts';
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
    title: `Light let through at each ${kind} limit, without the overall limit`,
    x: { label: `${kind} limit` },
    y: { label: 'of the light', unit: '%', max: 100 },
    series: [{ label: 'of the light', points: Array.from({ length: top + 1 }, (_, n) => [n, through(n)]) }],
    marks,
  };
}

/** Shares of the light that a limit is looked up for; the last is all that anybody could measure. */
const SHARES = [0.95, 0.99, 0.9995];
/** Of the light, below which a part of it needs no line of its own. */
const PART = 0.005;

/** The least limit of the kind for each share of the light: of all of it with what it brings and costs, and of its parts. */
export function needsOf({ pilot, kind, now, all }: LimitCase): Evidence {
  const lifted = (n: number) => ({ ...now, [kind]: n, overall: LIFTED.overall });
  const least = (share: number, part?: LightPart) => {
    const whole = pilot.energy(lifted(LIFTED[kind]), part);
    let n = 0;
    while (n < LIFTED[kind] && pilot.energy(lifted(n), part) < share * whole) n++;
    return n;
  };
  const rows = SHARES.map((share) => {
    const n = least(share);
    // The overall limit that lets them happen is read off the same pilot; it counts no see-through surfaces.
    const light = pilot.energy(lifted(n));
    let overall = now.overall;
    while (overall < LIFTED.overall && pilot.energy({ ...now, [kind]: n, overall }) < share * light) overall++;
    const set = { ...now, [kind]: n, overall };
    const stops = Math.log2(pilot.energy(set) / pilot.energy(now));
    const told = Number.isFinite(stops) ? `${stops >= 0 ? '+' : '−'}${Math.abs(stops).toFixed(2)}` : 'from black';
    return [share > 0.999 ? 'all of it' : percent(share), n, set.overall, told, `${(pilot.rays(set) / pilot.rays(now)).toFixed(2)} ×`]; // prettier-ignore
  });
  const parts = ([['unmirrored', 'without a reflection'], ['mirrored', 'by a reflection']] as [LightPart, string][]).flatMap(([part, name]) => {
    const share = pilot.energy(lifted(LIFTED[kind]), part) / all;
    return kind === 'transmission' && share >= PART ? [[`99 % ${name}, ${percent(share)} of it`, least(0.99, part), null, null, null]] : []; // prettier-ignore
  }); // prettier-ignore
  return {
    kind: 'table',
    title: `What the light needs of the ${kind} limit`,
    columns: ['light', 'limit', 'overall', 'stops', 'rays'],
    rows: [...rows, ...parts],
  };
}

/** How many faces of glass straight paths cross. */
export function crossingsOf({ faces, now }: LimitCase): Evidence[] {
  if (!faces) return [];
  const bins = Array.from({ length: faces.most + 1 }, (_, n) => ({ from: n, to: n, count: 0 }));
  for (const n of faces.counts) bins[n].count++;
  const first = bins.findIndex(({ count }) => count > 0);
  return [
    {
      kind: 'histogram',
      title: 'Faces of glass on straight paths, in pixels of the region',
      x: { label: 'faces' },
      bins: bins.slice(first),
      marks: [{ x: now.transmission, label: `limit ${now.transmission}`, kind: 'now' }],
    },
  ];
}
