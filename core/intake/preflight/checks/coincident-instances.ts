import { CAUTION, type Check } from '../check.ts';
import type { Offender } from '../check.ts';
import { idsOf, leaveOut } from '../../repairs/offer.ts';
import { count } from '../tell.ts';

export const coincidentInstances: Check = {
  id: 'coincident-instances',
  group: 'shape',
  title: 'Duplicate objects',
  why: 'Two copies in one place look like one, cost twice, and flicker where their materials differ.',
  threshold: CAUTION,
  run(scene) {
    const offenders: Offender[] = [];
    for (const [, objects] of scene.objectsByMesh) {
      const seen = new Map<string, string>();
      for (const { node } of objects) {
        if (!node.visible) continue;
        const key = node.world.map((v) => v.toPrecision(7)).join(' ');
        const first = seen.get(key);
        if (first === undefined) seen.set(key, node.path);
        else offenders.push({ object: node.path, detail: `stands where ${first} stands, of the same mesh`, count: 1 });
      }
    }
    return {
      expected: 'none',
      found: count(offenders, 'object'),
      offenders,
      repair: leaveOut('Remove the duplicates', scene.document, idsOf(offenders)),
    };
  },
};
