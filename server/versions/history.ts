/** A shot's versions as a history: one named, one gone back to as a new version. */
import { and, eq } from 'drizzle-orm';
import type { ReturnRequest } from '../../core/contracts/requests.ts';
import type { Context } from '../context.ts';
import { versions } from '../db/schema.ts';
import { conflict, notFound } from '../errors.ts';
import { shotChanged } from '../notify.ts';
import { addVersion, lockHead, needBase } from './versions.ts';

/** @param name empty: it is called nothing */
export async function nameVersion({ db }: Context, id: number, name: string): Promise<void> {
  await db.transaction(async (tx) => {
    const [version] = await tx.update(versions).set({ name: name.trim() }).where(eq(versions.id, id)).returning();
    if (!version) throw notFound(`version ${id}`);
    await shotChanged(tx, version.shotId);
  });
}

/** Makes a version the newest again, its files too: what came after it stays in the history, and undo goes back there. */
export async function returnTo(context: Context, code: string, { base, version: id }: ReturnRequest): Promise<void> {
  await context.db.transaction(async (tx) => {
    const { shot, head } = await lockHead(tx, code);
    needBase(head, base);
    const [version] = await tx.select().from(versions).where(and(eq(versions.id, id), eq(versions.shotId, shot.id)));
    if (!version) throw notFound(`version ${id} of ${code}`);
    const { document: becomes, manifest } = version;
    const reason = `Back to version ${version.number}${version.name ? `, ${version.name}` : ''}`;
    if (!(await addVersion(context, tx, shot, head, { reason, becomes, manifest })))
      throw conflict(`${code} is already the same as version ${version.number}.`);
  });
} // prettier-ignore
