/** A shot called otherwise, and a shot made from the newest version of another. */
import { eq } from 'drizzle-orm';
import type { ApartRequest, CopyRequest } from '../../core/contracts/requests.ts';
import type { JsonPatch } from '../../core/document/patch.ts';
import type { Context } from '../context.ts';
import type { Transaction } from '../db/database.ts';
import { decisions, shots, versions } from '../db/schema.ts';
import { conflict } from '../errors.ts';
import { shotChanged } from '../notify.ts';
import { createRender } from '../render/renders.ts';
import { lockTrial } from '../trials/trials.ts';
import { lockHead, type ShotRow, type VersionRow } from '../versions/versions.ts';
import { addShot } from './import-shot.ts';

/** What lists call it; its document keeps the name that it came in with. */
export async function renameShot({ db }: Context, code: string, name: string): Promise<void> {
  await db.transaction(async (tx) => {
    const { shot } = await lockHead(tx, code);
    await tx.update(shots).set({ name: name.trim() }).where(eq(shots.id, shot.id));
    await shotChanged(tx, shot.id);
  });
}

/** @throws RequestError 409 when the code is taken; InvalidInput when it is none */
export async function copyShot(context: Context, of: string, called: CopyRequest): Promise<void> {
  await context.db.transaction(async (tx) => {
    const { shot, head } = await lockHead(tx, of);
    await addCopy(context, tx, shot, head, called, { patch: [], reason: `Copy of ${of}, version ${head.number}` });
  });
}

/**
 * A trial that is a picture of two renders becomes two shots, for no version is both: one without the objects, one with them alone.
 * @throws RequestError 409 when a code is taken, or the trial is not measured
 */
export async function keepApart(context: Context, trialId: number, codes: ApartRequest): Promise<void> {
  if (codes.rest === codes.alone) throw conflict(`Two shots cannot both be called ${codes.rest}.`);
  await context.db.transaction(async (tx) => {
    const trial = await lockTrial(tx, trialId);
    if (trial.state !== 'done') throw conflict(`Trial ${trial.number} is ${trial.state}: nothing is proved yet.`);
    if (trial.alonePatch === null)
      throw conflict(`Trial ${trial.number} is of one render: it is kept in the shot itself.`);
    const { shot } = await lockHead(tx, trial.code);
    const [version] = await tx.select().from(versions).where(eq(versions.id, trial.versionId));
    const reason = (what: string) => `${what} of trial ${trial.number} of ${trial.code}: ${trial.title}`;
    const parts = [
      { code: codes.rest, name: `${shot.name.slice(0, 180)}, rest`, patch: trial.patch, reason: reason('The rest') },
      {
        code: codes.alone,
        name: `${shot.name.slice(0, 180)}, held out`,
        patch: trial.alonePatch,
        reason: reason('The objects alone'),
      },
    ];
    for (const { code, name, patch, reason } of parts)
      await addCopy(context, tx, shot, version, { code, name }, { patch: JSON.parse(patch) as JsonPatch, reason });
    await tx
      .insert(decisions)
      .values({ shotId: shot.id, trialId, verdict: 'keep', reason: `${codes.rest} and ${codes.alone}` });
    await shotChanged(tx, shot.id);
  });
}

/** A shot made of a version of another, changed by a patch; its preview is rendered. */
async function addCopy(
  context: Context,
  tx: Transaction,
  shot: ShotRow,
  of: VersionRow,
  { code, name }: CopyRequest,
  { patch, reason }: { patch: JsonPatch; reason: string },
): Promise<void> {
  const called = [
    { op: 'replace' as const, path: '/code', value: code },
    { op: 'replace' as const, path: '/name', value: name },
  ];
  const task = { document: of.document, code, patch: [...patch, ...called], sheets: [], values: {}, remove: [] };
  const { document } = await context.documents.changeDocument(task);
  const { manifest } = of;
  const version = await addShot(context, tx, { code, name, document, manifest, cameIn: null }, reason);
  await tx
    .update(shots)
    .set({ showProfile: shot.showProfile, targetProfile: shot.targetProfile, farm: shot.farm })
    .where(eq(shots.id, version.shotId));
  await createRender(context, tx, { version, purpose: 'base', sheet: 'preview', patch: [], region: null });
  await shotChanged(tx, version.shotId);
}
