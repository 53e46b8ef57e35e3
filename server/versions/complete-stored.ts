/** Documents that were stored before a key was added to the schema get it written out, so that every control has its value. */
import { eq } from 'drizzle-orm';
import { canonicalText } from '../../core/document/canonical.ts';
import { completeDocument } from '../../core/document/complete.ts';
import type { Context } from '../context.ts';
import { versions } from '../db/schema.ts';

/** @returns how many versions lacked something */
export async function completeStored(db: Context['db']): Promise<number> {
  let lacking = 0;
  for (const { id, document } of await db.select({ id: versions.id, document: versions.document }).from(versions)) {
    const whole = canonicalText(completeDocument(JSON.parse(document)) as object);
    if (whole === document) continue;
    await db.update(versions).set({ document: whole }).where(eq(versions.id, id));
    lacking += 1;
  }
  return lacking;
}
