import { CAUTION, type Check } from '../check.ts';
import type { Offender } from '../check.ts';
import { setValues } from '../../repairs/offer.ts';
import { count } from '../tell.ts';

export const uvSetWithoutData: Check = {
  id: 'uv-set-without-data',
  group: 'surface',
  title: 'Missing UV sets',
  why: 'A texture that asks for a UV set the mesh lacks reads another one, or none.',
  threshold: CAUTION,
  run(scene) {
    const offenders = new Map<string, Offender>();
    const values: Record<string, number> = {};
    for (const worn of scene.worn) {
      const { texture, objects, material } = worn;
      for (const { node, poly } of objects) {
        if (poly.uvs.length === 0) continue;
        const set = texture.uvName ? poly.uvs.find(({ name }) => name === texture.uvName) : poly.uvs[texture.uvSet];
        const called = texture.uvName ? `"${texture.uvName}"` : `${texture.uvSet + 1}`;
        const isFlat = set && set.values.every((v, i) => v === set.values[i % 2]);
        if (!set || isFlat)
          offenders.set(`${node.path} ${called}`, {
            object: node.path,
            detail: `"${material}" reads UV set ${called}, which ${set ? 'holds one place for all corners' : 'is not there'}`,
            count: 1,
          });
        if (!set && poly.uvs.length === 1)
          for (const map of scene.documentMapsOf(worn)) values[`/maps/${map}/uvSet`] = 0;
      }
    }
    return {
      expected: 'every UV set that is used exists',
      found: count([...offenders.values()], 'object'),
      offenders: [...offenders.values()],
      repair: setValues('Read the first set', scene.document, values),
    };
  },
};
