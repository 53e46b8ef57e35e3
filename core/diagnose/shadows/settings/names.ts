/** What settings of shadows say things with. */
import { luminance } from '../../../data/colour.ts';
import { valueAt } from '../../../document/patch.ts';
import { metres } from '../../../intake/preflight/tell.ts';
import type { ShotDocument } from '../../../document/schema.ts';

/** What objects are called; parts of one name once. */
export const namesOf = ({ objects }: ShotDocument, ids: string[]): string[] => [
  ...new Set(ids.map((id) => objects[id].name || id)),
];

export const numberAt = (document: ShotDocument, pointer: string): number => Number(valueAt(document, pointer));

export function luminanceAt(document: ShotDocument, pointer: string): number {
  const [r, g, b] = valueAt(document, pointer) as number[];
  return luminance(r, g, b);
}

/** How far what should throw the shadow stands from the lit point: "stands 13.5 m away", "stand up to 28.4 m away". */
export const farAway = (casters: string[], value: number): string =>
  `${casters.length === 1 ? 'stands' : 'stand up to'} ${metres(+value.toPrecision(3))} away`;
