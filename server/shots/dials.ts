/** Setting controls by hand: dials of sheets, and values of lights, materials, objects. */
import { replaceValues, type JsonPatch } from '../../core/document/patch.ts';
import { isOfDocument, placesOf, tellPointer } from '../../core/document/pointers.ts';
import type { ShotDocument, SheetName } from '../../core/document/schema.ts';
import type { DialRequest } from '../../core/contracts/requests.ts';
import type { Context } from '../context.ts';
import { conflict } from '../errors.ts';
import { addVersion, lockHead, needBase } from './versions.ts';

export type ControlValues = Record<string, unknown>;

/** The patch that sets values by the pointers of controls, those of a sheet in each of some sheets. */
export function controlPatch(document: ShotDocument, sheets: SheetName[], values: ControlValues): JsonPatch {
  const places = Object.entries(values).flatMap(([pointer, value]) =>
    placesOf(pointer, sheets).map((place) => [place, value]),
  );
  return replaceValues(document, Object.fromEntries(places) as Record<string, unknown>);
}

/** "limits transmission 20, lights sun angle 0.53". */
export const tellValues = (values: ControlValues): string =>
  Object.entries(values)
    .map(([pointer, value]) => `${tellPointer(pointer)} ${typeof value === 'string' ? value : JSON.stringify(value)}`)
    .join(', ');

export async function setDials(context: Context, code: string, { base, sheets, values }: DialRequest): Promise<void> {
  await context.db.transaction(async (tx) => {
    const { shot, head } = await lockHead(tx, code);
    needBase(head, base);
    const patch = controlPatch(JSON.parse(head.document) as ShotDocument, sheets, values);
    if (patch.length === 0) throw conflict(`The dials of ${code} stand like that already.`);
    const where = Object.keys(values).every(isOfDocument) ? '' : ` (${sheets.join(' and ')})`;
    await addVersion(context, tx, shot, head, patch, `Set ${tellValues(values)}${where}`);
  });
}
