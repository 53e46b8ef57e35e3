import { CAUTION, type Check } from '../check.ts';
import { setValues } from '../../repairs/offer.ts';
import type { Offender } from '../check.ts';
import { count } from '../tell.ts';

export const limitOverridden: Check = {
  id: 'limit-overridden',
  group: 'sheet',
  title: 'Overridden limits',
  why: 'A limit above the overall one does nothing: paths end at the overall limit first.',
  threshold: CAUTION,
  run({ source, document }) {
    if (!source.sheets || !document) return 'the scene has no sheets of ours';
    const offenders: Offender[] = [];
    const values: Record<string, unknown> = {};
    for (const [name, { limits }] of Object.entries(source.sheets)) {
      let needed = limits.overall;
      for (const kind of ['diffuse', 'specular', 'transmission', 'volume'] as const) {
        // A look through faces ends in one more event, at what is behind them.
        const wanted = kind === 'diffuse' ? limits[kind] : limits[kind] + 1;
        if (wanted <= limits.overall) continue;
        needed = Math.max(needed, wanted);
        offenders.push({
          object: `${name} sheet`,
          detail: `${kind} ${limits[kind]} needs an overall limit of ${wanted}; it is ${limits.overall}`,
          count: 1,
        });
      }
      if (needed > limits.overall) values[`/sheets/${name}/limits/overall`] = Math.min(200, needed);
    }
    return {
      expected: 'an overall limit above every other',
      found: count(offenders, 'limit'),
      offenders,
      repair: setValues('Raise the overall limit', document, values),
    };
  },
};
