import { CAUTION, type Check } from '../check.ts';
import type { Offender } from '../check.ts';
import { count } from '../tell.ts';

export const uvSetWithoutData: Check = {
  id: 'uv-set-without-data',
  group: 'surface',
  title: 'UV sets that are not there',
  why: 'A texture that asks for a set the mesh does not have reads another one, or none.',
  threshold: CAUTION,
  run(scene) {
    const offenders = new Map<string, Offender>();
    for (const { texture, objects, material } of scene.worn)
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
      }
    return {
      expected: 'every set that is read holds UVs',
      found: count([...offenders.values()], 'object'),
      offenders: [...offenders.values()],
    };
  },
};
