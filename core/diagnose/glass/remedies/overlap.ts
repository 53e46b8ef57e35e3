/** What stands inside reaches into the wall, and is there where both are (Schmidt & Budge 2002). */
import type { Propose } from '../../family.ts';
import type { GlassCase } from '../definition.ts';

const HIGHEST = 100;

export const overlap: Propose<GlassCase> = (of) => {
  if (of.kind !== 'contact') return null;
  const { document, inner, outer, grown } = of;
  const priority = Math.min(HIGHEST, document.objects[outer.id].priority + 1);
  return {
    id: 'overlap',
    title: `Let ${inner.name} reach into ${outer.name}, by its priority`,
    change: { kind: 'values', values: { [`/objects/${inner.id}/transform`]: grown, [`/objects/${inner.id}/priority`]: priority } }, // prettier-ignore
    note: 'It becomes a little larger, and wins where both overlap: light crosses from one to the other once.',
  };
};
