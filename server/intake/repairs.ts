/** Carries out what preflight offers: a new version with the files it makes, undone like any other. */
import { apart, type ApartOptions } from '../apart/apart.ts';
import type { Context } from '../context.ts';
import { conflict } from '../errors.ts';
import { addVersion, headOf, lockHead, needBase, shotByCode, type VersionRow } from '../versions/versions.ts';
import { intakeOf } from './preflights.ts';
import { profilesOf } from './profiles.ts';
import type { RepairTask } from '../apart/work/repair.ts';

/** @param id of the check, or of a limit of the target after `target:`; null: every repair that is offered, each on what those before it left */
export async function repairShot(
  context: Context,
  code: string,
  base: number,
  id: string | null,
  options: ApartOptions,
): Promise<void> {
  const head = await headOf(context.db, code);
  needBase(head, base);
  // Worked out before the shot is locked: meshes take their time.
  const { work, reason } = id === null ? await all(context, code) : await one(context, code, id);
  const made = await apart('repairTask', taskOf(context, head, work), options);
  if (!made) throw conflict(`Preflight of ${code} offers no repair.`);
  const { patch, files, labels } = made;
  await context.db.transaction(async (tx) => {
    const { shot, head: now } = await lockHead(tx, code);
    needBase(now, base);
    await addVersion(context, tx, shot, now, { patch, reason: reason ?? told(labels), files });
  });
}

const taskOf = ({ blobs }: Context, { document, manifest }: VersionRow, work: RepairTask['work']): RepairTask => ({
  document,
  manifest,
  blobs: blobs.folder,
  work,
});

const told = (labels: string[]) => `Carried out ${labels.length} repairs: ${labels.join(', ')}`;

async function one(context: Context, code: string, id: string) {
  const { checks, fit } = await intakeOf(context, code);
  // Ids of limits of the target begin with its kind, so that they are none of a check's.
  const offered = [...checks, ...(fit?.losses ?? []).map((loss) => ({ ...loss, id: `target:${loss.id}` }))];
  const check = offered.find((found) => found.id === id);
  if (!check?.repair) throw conflict(`Preflight of ${code} offers no repair for "${id}".`);
  return { work: { repair: check.repair }, reason: `${check.repair.label} (${check.title.toLowerCase()})` };
}

async function all(context: Context, code: string) {
  const { profile } = await profilesOf(context.db, await shotByCode(context.db, code));
  return { work: { profile }, reason: null };
}
