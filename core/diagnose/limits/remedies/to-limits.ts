import type { FigureValue } from '../../../contracts/figures.ts';
import type { Limits } from '../../../predict/limit-pilot.ts';
import { stopsOf } from '../../../figures/stops-between.ts';
import type { Proposal } from '../../family.ts';
import type { LimitCase } from '../case.ts';

/** Limits set to others: brightness and rays are read off the pilot, exactly; the rest is rendered small. */
export function toLimits(
  { now, pilot }: Pick<LimitCase, 'now' | 'pilot'>,
  id: string,
  title: string,
  limits: Limits,
): Proposal {
  const values = Object.entries(limits).filter(([kind, value]) => now[kind as keyof Limits] !== value);
  const forecast: FigureValue[] = [
    { id: 'brightness', before: stopsOf(pilot.energy(now)), after: stopsOf(pilot.energy(limits)) },
    { id: 'rays', before: pilot.rays(now), after: pilot.rays(limits) },
  ];
  const change = { kind: 'values' as const, values: Object.fromEntries(values.map(([kind, value]) => [`/limits/${kind}`, value])) }; // prettier-ignore
  return { id, title, change, forecast };
}
