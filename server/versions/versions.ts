/** A shot's versions: a tree by parents, and a head that undo and redo move along it. */
import { and, desc, eq, max } from 'drizzle-orm';
import { canonicalText } from '../../core/document/canonical.ts';
import type { JsonPatch } from '../../core/document/patch.ts';
import type { SheetName } from '../../core/document/schema.ts';
import type { ControlValues } from '../../core/document/set-values.ts';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { type decisions, shots, versions } from '../db/schema.ts';
import { conflict, notFound } from '../errors.ts';
import { queuePreflight } from './preflight-queue.ts';
import { shotChanged } from '../notify.ts';

export type ShotRow = typeof shots.$inferSelect;
export type VersionRow = typeof versions.$inferSelect;

export async function shotByCode(tx: Transaction | Context['db'], code: string): Promise<ShotRow> {
  const [shot] = await tx.select().from(shots).where(eq(shots.code, code));
  if (!shot) throw notFound(`shot "${code}"`);
  return shot;
}

/** The shot, locked against other changes of its head until the transaction ends, and its head version. */
export async function lockHead(tx: Transaction, code: string): Promise<{ shot: ShotRow; head: VersionRow }> {
  const [shot] = await tx.select().from(shots).where(eq(shots.code, code)).for('update');
  if (!shot) throw notFound(`shot "${code}"`);
  const [head] = await tx.select().from(versions).where(eq(versions.id, shot.headVersionId!));
  return { shot, head };
}

/** The version that is worked on. */
export async function headOf(db: Context['db'], code: string): Promise<VersionRow> {
  const shot = await shotByCode(db, code);
  const [head] = await db.select().from(versions).where(eq(versions.id, shot.headVersionId!));
  return head;
}

export interface VersionChange {
  /** In words; made of what the change says of itself. */
  reason: string | ((told: string) => string);
  patch?: JsonPatch;
  /** Values that are set besides the patch, those of sheets in each of `sheets`. */
  values?: ControlValues;
  sheets?: SheetName[];
  /** Items that are taken out, by their pointers. */
  remove?: string[];
  /** Text of the document that it is to be, whatever the head's is. */
  becomes?: string;
  /** Hashes of files that are new with it, by path. */
  files?: Record<string, string>;
  /** Text of its manifest, before those files; left out: the head's. */
  manifest?: string;
}

/**
 * A new version on the head: its document changed, checked as a whole, and made the head.
 * @returns null where values stand like that already, and nothing else changes
 */
export async function addVersion(
  context: Context,
  tx: Transaction,
  shot: ShotRow,
  head: VersionRow,
  {
    reason,
    patch: given = [],
    values = {},
    sheets = [],
    remove = [],
    becomes,
    files = {},
    manifest = head.manifest,
  }: VersionChange,
): Promise<VersionRow | null> {
  const task = { document: head.document, code: shot.code, patch: given, sheets, values, remove, becomes };
  const { patch, document, told } = await context.documents.changeDocument(task);
  if (patch.length === 0 && Object.keys(files).length === 0 && manifest === head.manifest) return null;
  const [{ last }] = await tx
    .select({ last: max(versions.number) })
    .from(versions)
    .where(eq(versions.shotId, shot.id));
  const [version] = await tx
    .insert(versions)
    .values({
      shotId: shot.id,
      number: last! + 1,
      parentId: head.id,
      document,
      manifest: canonicalText({ ...(JSON.parse(manifest) as Record<string, string>), ...files }),
      patch: canonicalText(patch),
      reason: typeof reason === 'string' ? reason : reason(told),
    })
    .returning();
  await queuePreflight(context, tx, version.id);
  await moveHead(tx, shot, version.id);
  return version;
}

async function moveHead(tx: Transaction, shot: ShotRow, versionId: number): Promise<void> {
  await tx.update(shots).set({ headVersionId: versionId }).where(eq(shots.id, shot.id));
  await shotChanged(tx, shot.id);
}

/** The version that redo goes on to: the newest one made from `head`. */
export async function redoOf(tx: Transaction | Context['db'], head: VersionRow): Promise<VersionRow | null> {
  const [child] = await tx
    .select()
    .from(versions)
    .where(and(eq(versions.shotId, head.shotId), eq(versions.parentId, head.id)))
    .orderBy(desc(versions.number))
    .limit(1);
  return child ?? null;
}

/** A decision to keep holds as long as the version that it made stands: undo takes it back. @param line see `versionLine` */
export const isInForce = (
  { verdict, versionId }: Pick<typeof decisions.$inferSelect, 'verdict' | 'versionId'>,
  line: ReadonlySet<number>,
): boolean => verdict !== 'keep' || versionId === null || line.has(versionId);

/** @param base the head that the page showed; another page may have moved it since */
export async function stepHead(context: Context, code: string, base: number, way: 'undo' | 'redo'): Promise<void> {
  await context.db.transaction(async (tx) => {
    const { shot, head } = await lockHead(tx, code);
    needBase(head, base);
    const to = way === 'undo' ? head.parentId : ((await redoOf(tx, head))?.id ?? null);
    if (to === null) throw conflict(`There is nothing to ${way} in ${code}.`);
    await moveHead(tx, shot, to);
  });
}

/** Throws when a change was meant for another version than the one it would land on. */
export function needBase(head: VersionRow, base: number): void {
  if (head.id !== base)
    throw conflict(`The shot is at version ${head.number} now. Check it, then make your change again.`);
}
