/** Carries out what preflight offers: a new version with the files it makes, undone like any other. */
import type { ShotDocument } from '../../core/document/schema.ts';
import { carryOut } from '../../core/intake/repairs/carry-out.ts';
import { repairAll } from '../../core/intake/repair-all.ts';
import type { Context } from '../context.ts';
import type { VersionRow } from '../render/renders.ts';
import { conflict } from '../errors.ts';
import { addVersion, headOf, lockHead, needBase, shotByCode } from '../shots/versions.ts';
import { intakeOf } from './preflights.ts';
import { profilesOf } from './profiles.ts';

/** @param id of the check, or of a limit of the target after `target:`; null: every repair that is offered, each on what those before it left */
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
  const { checks, fit } = await intakeOf(context, code);
  // Ids of limits of the target begin with its kind, so that they are none of a check's.
  const offered = [...checks, ...(fit?.losses ?? []).map((loss) => ({ ...loss, id: `target:${loss.id}` }))];
  const check = offered.find((found) => found.id === id);
  if (!check?.repair) throw conflict(`Preflight of ${code} offers no repair for "${id}".`);
  const made = await carryOut(JSON.parse(head.document) as ShotDocument, check.repair, reader(context, head));
  return { ...made, reason: `${check.repair.label} (${check.title.toLowerCase()})` };
}

async function all(context: Context, code: string, head: VersionRow) {
  const { profile } = await profilesOf(context.db, await shotByCode(context.db, code));
  const made = await repairAll(JSON.parse(head.document) as ShotDocument, reader(context, head), profile);
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
