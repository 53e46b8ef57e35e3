/** Setting controls by hand: dials of sheets, and values of lights, materials, objects. */
import { isOfDocument } from '../../core/document/pointers.ts';
import { tellValues } from '../../core/document/set-values.ts';
import type { DialRequest } from '../../core/contracts/requests.ts';
import type { Context } from '../context.ts';
import { conflict } from '../errors.ts';
import { addVersion, lockHead, needBase } from './versions.ts';

export async function setDials(context: Context, code: string, { base, sheets, values }: DialRequest): Promise<void> {
  await context.db.transaction(async (tx) => {
    const { shot, head } = await lockHead(tx, code);
    needBase(head, base);
    const where = Object.keys(values).every(isOfDocument) ? '' : ` (${sheets.join(' and ')})`;
    const change = { sheets, values, reason: `Set ${tellValues(values)}${where}` };
    if (!(await addVersion(context, tx, shot, head, change)))
      throw conflict(`The dials of ${code} stand like that already.`);
  });
}
