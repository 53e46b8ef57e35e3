/**
 * Numbers of objects and materials, as passes of ids hold them: from 1 on in the order of their keys, 0 for none. The one
 * place that knows it.
 */
import type { ShotDocument } from './schema.ts';

/** Keys of all objects, hidden ones too, by their number less one. */
export const objectIds = ({ objects }: Pick<ShotDocument, 'objects'>): string[] => Object.keys(objects).sort();
export const materialIds = ({ materials }: Pick<ShotDocument, 'materials'>): string[] => Object.keys(materials).sort();

/** The number that passes hold; 0 where there is no such object. */
export const objectNumber = (document: Pick<ShotDocument, 'objects'>, id: string): number =>
  objectIds(document).indexOf(id) + 1;

/** What objects are called, by their number less one. */
export const objectNames = (document: Pick<ShotDocument, 'objects'>): string[] =>
  objectIds(document).map((id) => document.objects[id].name || id);
