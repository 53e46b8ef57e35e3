/** Setting dials of a sheet by hand. */
import { replaceValues, type JsonPatch } from '../../core/document/patch.ts';
import type { ShotDocument, SheetName } from '../../core/document/schema.ts';
import type { DialRequest } from '../../core/contracts/requests.ts';
import type { Context } from '../context.ts';
import { conflict } from '../errors.ts';
import { addVersion, lockHead, needBase } from './versions.ts';

export type SheetValues = Record<string, number | string | boolean>;

/** The patch that sets values, by pointer inside a sheet, in some sheets of a document. */
export function sheetPatch(document: ShotDocument, sheets: SheetName[], values: SheetValues): JsonPatch {
  const pointers = sheets.flatMap((sheet) =>
    Object.entries(values).map(([pointer, value]) => [`/sheets/${sheet}${pointer}`, value]),
  );
  return replaceValues(document, Object.fromEntries(pointers) as Record<string, unknown>);
}

export async function setDials(context: Context, code: string, { base, sheets, values }: DialRequest): Promise<void> {
  await context.db.transaction(async (tx) => {
    const { shot, head } = await lockHead(tx, code);
    needBase(head, base);
    const patch = sheetPatch(JSON.parse(head.document) as ShotDocument, sheets, values);
    if (patch.length === 0) throw conflict(`The dials of ${code} stand like that already.`);
    const told = Object.entries(values).map(([pointer, value]) => `${pointer.slice(1).replaceAll('/', ' ')} ${value}`);
    await addVersion(tx, shot, head, patch, `Set ${told.join(', ')} (${sheets.join(' and ')})`);
  });
}
