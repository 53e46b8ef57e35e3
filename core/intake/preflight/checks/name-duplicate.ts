import { CAUTION, type Check } from '../check.ts';
import type { Offender } from '../check.ts';
import { setValues } from '../../repairs/offer.ts';
import { count } from '../tell.ts';

export const nameDuplicate: Check = {
  id: 'name-duplicate',
  group: 'order',
  title: 'Duplicate names',
  why: 'Light links, overrides and logs go by name; with duplicates they may pick the wrong one.',
  threshold: CAUTION,
  run(scene) {
    const seen = new Map<string, string>();
    const offenders: Offender[] = [];
    const names = new Set(scene.objects.map(({ node }) => node.name));
    const values: Record<string, string> = {};
    for (const { node } of scene.objects) {
      const parent = node.parent < 0 ? '' : scene.source.nodes[node.parent].path;
      const key = `${parent}/${node.name}`;
      const first = seen.get(key);
      if (first === undefined) {
        seen.set(key, node.path);
        continue;
      }
      offenders.push({ object: node.path, detail: `has the name of ${first}`, count: 1 });
      values[`/objects${node.path}/name`] = freeName(names, node.name);
    }
    return {
      expected: 'none',
      found: count(offenders, 'object'),
      offenders,
      repair: setValues('Number them', scene.document, values),
    };
  },
};

function freeName(taken: Set<string>, name: string): string {
  let n = 2;
  while (taken.has(`${name} ${n}`)) n += 1;
  taken.add(`${name} ${n}`);
  return `${name} ${n}`;
}
