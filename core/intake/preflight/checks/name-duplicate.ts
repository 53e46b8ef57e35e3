import { CAUTION, type Check } from '../check.ts';
import type { Offender } from '../check.ts';
import { count } from '../tell.ts';

export const nameDuplicate: Check = {
  id: 'name-duplicate',
  group: 'order',
  title: 'Names twice over',
  why: 'Links, overrides and logs go by name: with two of it they take either.',
  threshold: CAUTION,
  run(scene) {
    const seen = new Map<string, string>();
    const offenders: Offender[] = [];
    for (const { node } of scene.objects) {
      const parent = node.parent < 0 ? '' : scene.source.nodes[node.parent].path;
      const key = `${parent}/${node.name}`;
      const first = seen.get(key);
      if (first === undefined) seen.set(key, node.path);
      else offenders.push({ object: node.path, detail: `has the name of ${first}`, count: 1 });
    }
    return { expected: 'none', found: count(offenders, 'object'), offenders };
  },
};
