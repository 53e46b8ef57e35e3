/** Carries out what preflight offers: a new version with the files it makes, undone like any other. */
import type { ShotDocument } from '../../core/document/schema.ts';
import { defaultProfile } from '../../core/intake/preflight/profile.ts';
import { carryOut } from '../../core/intake/repairs/carry-out.ts';
import { repairAll } from '../../core/intake/repairs/repair-all.ts';
import type { Context } from '../context.ts';
import type { VersionRow } from '../render/renders.ts';
import { conflict } from '../errors.ts';
import { addVersion, headOf, lockHead, needBase } from '../shots/versions.ts';
import { intakeOf } from './preflights.ts';

/** @param id of the check; null: every repair that is offered, each on what those before it left */
export async function repairShot(context: Context, code: string, base: number, id: string | null): Promise<void> {
  const head = await headOf(context.db, code);
  needBase(head, base);
  // Worked out before the shot is locked: meshes take their time.
  const { patch, files, reason } = id === null ? await all(context, code, head) : await one(context, code, head, id);
  const hashes: Record<string, string> = {};
  for (const [path, bytes] of files) hashes[path] = await context.blobs.put(bytes);
  await context.db.transaction(async (tx) => {
    const { shot, head: now } = await lockHead(tx, code);
    needBase(now, base);
    await addVersion(context, tx, shot, now, patch, reason, hashes);
  });
}

async function one(context: Context, code: string, head: VersionRow, id: string) {
  const { checks } = await intakeOf(context, code);
  const check = checks.find((found) => found.id === id);
  if (!check?.repair) throw conflict(`Preflight of ${code} offers no repair for "${id}".`);
  const made = await carryOut(JSON.parse(head.document) as ShotDocument, check.repair, reader(context, head));
  return { ...made, reason: `${check.repair.label} (${check.title.toLowerCase()})` };
}

async function all(context: Context, code: string, head: VersionRow) {
  const made = await repairAll(JSON.parse(head.document) as ShotDocument, reader(context, head), defaultProfile());
  if (made.done.length === 0) throw conflict(`Preflight of ${code} offers no repair.`);
  return {
    ...made,
    reason: `Carried out ${made.done.length} repairs: ${made.done.map(({ label }) => label).join(', ')}`,
  };
}

function reader({ blobs }: Context, head: VersionRow) {
  const manifest = JSON.parse(head.manifest) as Record<string, string>;
  return async (path: string) => (Object.hasOwn(manifest, path) ? blobs.get(manifest[path]) : null);
}
