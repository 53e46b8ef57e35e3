/** A filter that lets everything through: a tint that is wanted belongs into the absorption, by distance. */
import type { Propose } from '../../family.ts';
import { listed } from '../../words.ts';
import type { GlassCase } from '../definition.ts';

export const clearFilter: Propose<GlassCase> = (of) =>
  of.kind !== 'black'
    ? null
    : {
        id: 'clear-filter',
        title: `Let ${listed(of.materials.map(({ name }) => name))} filter nothing`,
        change: { kind: 'values', values: Object.fromEntries(of.materials.map(({ id }) => [`/materials/${id}/baseColour`, [1, 1, 1]])) }, // prettier-ignore
        note: 'Put the tint you want into absorption, which depends on the distance inside the glass.',
      };
