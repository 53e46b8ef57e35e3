import type { LightSpec, ShotDocument } from '../../../document/schema.ts';
import { isDark } from '../../../lights/is-dark.ts';
import { CAUTION, type Check } from '../check.ts';
import { setValues } from '../../repairs/offer.ts';
import { count } from '../tell.ts';

export const lightOff: Check = {
  id: 'light-off',
  group: 'light',
  title: 'Lights switched off',
  why: 'A light that is hidden or at zero is easily forgotten.',
  threshold: CAUTION,
  run({ source, document }) {
    const off = source.lights.flatMap(({ node, spec }) => {
      const object = spec.name || source.nodes[node]?.path || 'a light';
      const detail = offBecause(spec);
      return detail === null ? [] : [{ object, detail, count: 1 }];
    });
    return {
      expected: 'every light on',
      found: count(off, 'light'),
      offenders: off,
      repair: setValues('Show hidden lights', document, shown(document)),
    };
  },
};

function offBecause(light: LightSpec): string | null {
  if (light.hidden) return 'is hidden';
  if (!isDark(light)) return null;
  return light.intensity === 0 ? 'has an intensity of 0' : 'is black';
}

const shown = (document: ShotDocument | null): Record<string, unknown> =>
  Object.fromEntries(Object.entries(document?.lights ?? {}).flatMap(([id, { hidden }]) => (hidden ? [[`/lights/${id}/hidden`, false]] : []))); // prettier-ignore
