/** Setting controls by hand: dials of sheets, values of lights, materials, objects; and items that come and go. */
import type { DialRequest } from '../../core/contracts/requests.ts';
import type { Context } from '../context.ts';
import { conflict } from '../errors.ts';
import { addVersion, lockHead, needBase } from './versions.ts';

export async function setDials(
  context: Context,
  code: string,
  { base, sheets, values, remove }: DialRequest,
): Promise<void> {
  await context.db.transaction(async (tx) => {
    const { shot, head } = await lockHead(tx, code);
    needBase(head, base);
    const change = { sheets, values, remove, reason: (told: string) => told };
    if (!(await addVersion(context, tx, shot, head, change)))
      throw conflict(`Everything already has these values in ${code}.`);
  });
}
